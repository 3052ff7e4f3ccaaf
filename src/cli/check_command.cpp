// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/check_command.h"

#include "block/digest.h"
#include "block/job_file.h"
#include "cli/inputs.h"
#include "wording/common/sentences.h"

#include <iostream>

namespace pallix::cli {

int check(const CheckRequest& request) {
    const auto entries = read_file(request.job).and_then([](const block::NamedText& text) {
        return block::read_job(text.text, text.file);
    });
    if (!entries) {
        print(entries.error());
        return input_is_wrong;
    }
    if (request.digest.empty()) {
        std::cout << block::digest_of(*entries) << "\n";
        return std::cout.flush() ? 0 : input_is_wrong;
    }
    const auto of = block::entry_of_digest(*entries, request.digest);
    if (!of) {
        print({{request.job, 0, wording::no_such_digest, "the digest of a paper that was made from it"}});
        return input_is_wrong;
    }
    std::cout << wording::digest_sentence(*entries, *of) << "\n";
    return std::cout.flush() ? 0 : input_is_wrong;
}

} // namespace pallix::cli
