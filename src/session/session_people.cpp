// SPDX-License-Identifier: GPL-3.0-or-later
// Who is at the bench, who answers for it, and pictures.
#include "session/session_worked.h"

#include "block/state/card_state.h"

#include <QFile>
#include <QFileInfo>

namespace pallix::session {

block::AtBench Session::at_bench() const {
    const std::string person = person_();
    const auto known = book_.people().find(QString::fromStdString(person));
    return {person, known ? known->role : block::Role::machinist};
}

/// A shop without learners hears nothing of roles.
std::optional<block::AtBench> Session::bench_to_tell() const {
    block::AtBench bench = at_bench();
    const auto& told = card_of(worked_->state).bench;
    const bool matters = told ? *told != bench : bench.role == block::Role::learner;
    return matters && !bench.person.empty() ? std::optional(std::move(bench)) : std::nullopt;
}

Outcome Session::bench_changed() {
    auto bench = job_ ? bench_to_tell() : std::nullopt;
    if (!bench)
        return {};
    std::vector<block::Payload> one;
    one.emplace_back(std::move(*bench));
    return append(std::move(one));
}

/// Who signs is one of the shop, no learner, and proves it where they have a code.
Outcome Session::proved(planning::Answers& answers) const {
    const auto words = [&answers](const char* key) {
        const auto found = answers.find(key);
        const auto* text = found == answers.end() ? nullptr : std::get_if<std::string>(&found->second);
        return text ? QString::fromStdString(*text).trimmed() : QString();
    };
    const QString by = words("by");
    const auto person = book_.people().find(by);
    if (!person || person->role == block::Role::learner)
        return tl::unexpected(one_fault(by.isEmpty() ? "nobody has signed" : by.toStdString() + " cannot sign",
                                        "somebody of the shop who is no learner"));
    if (!book_.people().proves(by, words("code")))
        return tl::unexpected(one_fault("this is not the code of " + by.toStdString(), "the code, or somebody else"));
    answers["by"] = by.toStdString();
    answers["role"] = std::string(block::role_keys[static_cast<std::size_t>(person->role)]);
    answers["by_code"] = person->has_code;
    answers.erase("code");
    return {};
}

Outcome Session::take_picture(const QString& file, const std::string& about, const std::string& words) {
    QFile source(file);
    const std::string name = QFileInfo(file).fileName().toStdString();
    if (!source.open(QIODevice::ReadOnly))
        return tl::unexpected(block::Faults{{name, 0, "cannot be read", "a PNG or JPEG of up to 20 MB"}});
    const QByteArray bytes = source.read(block::largest_picture + 1);
    const bool png = bytes.startsWith(QByteArray::fromHex("89504e470d0a1a0a")),
               jpeg = bytes.startsWith(QByteArray::fromHex("ffd8ff"));
    if ((!png && !jpeg) || bytes.size() > block::largest_picture)
        return tl::unexpected(block::Faults{
            {name, 0, png || jpeg ? "is larger than 20 MB" : "is no PNG and no JPEG", "a PNG or JPEG of up to 20 MB"}});
    if (!job_)
        return tl::unexpected(one_fault("no job is open", "an open job"));
    const auto kept = book_.pictures().keep(bytes);
    if (!kept)
        return tl::unexpected(as_faults(kept.error()));
    return take(block::PictureKept{name, kept->toStdString(), bytes.size(), about, words});
}

} // namespace pallix::session
