// SPDX-License-Identifier: GPL-3.0-or-later
// Writes notes into a shop book without end and says each number once it is acknowledged, or why it was not; made to be
// killed.
#include "storage/shop_book.h"

#include <QCoreApplication>
#include <cstdio>

int main(int argc, char** argv) {
    const QCoreApplication app(argc, argv);
    if (argc != 2)
        return 2;
    using namespace pallix;
    auto book = storage::ShopBook::open(QString::fromLocal8Bit(argv[1]));
    if (!book) {
        std::printf("%s\n%s\n", qPrintable(book.error().what), qPrintable(book.error().way_out));
        return 1;
    }
    const auto jobs = (*book)->jobs();
    if (!jobs || jobs->empty())
        return 1;
    const auto job = jobs->front().id;
    const auto before = (*book)->entries(job);
    if (!before)
        return 1;
    for (auto sequence = static_cast<std::int64_t>(before->size()) + 1;; ++sequence) {
        if (const auto kept = (*book)->append(
                job, {{sequence, "2026-03-02T09:41:00Z", "writer", block::Note{"entry " + std::to_string(sequence)}}});
            !kept) {
            std::printf("%s\n%s\n", qPrintable(kept.error().what), qPrintable(kept.error().way_out));
            return 1;
        }
        std::printf("%lld\n", static_cast<long long>(sequence));
        std::fflush(stdout);
    }
}
