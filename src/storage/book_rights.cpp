// SPDX-License-Identifier: GPL-3.0-or-later
// What somebody may change of the shop's book, by the role it has for them. Where a server keeps it, that refuses the
// same to whoever logs in (`set_up_server`).
#include "storage/shop_book.h"
#include "storage/sql.h"

#include <algorithm>

namespace pallix::storage {

using block::Role;
using block::ShopWork;

namespace {

QString words_of(ShopWork work) {
    switch (work) {
    case ShopWork::job_list:
        return QStringLiteral("which jobs are in the list");
    case ShopWork::engines:
        return QStringLiteral("the engines");
    case ShopWork::log_forms:
        return QStringLiteral("how logs are read");
    case ShopWork::instruments:
        return QStringLiteral("the instruments, but for zeros, checks and tests");
    case ShopWork::limits:
        return QStringLiteral("the limits of the shop");
    case ShopWork::usual_ways:
        return QStringLiteral("how the shop usually works");
    case ShopWork::people:
        return QStringLiteral("who is who");
    }
    return {};
}

} // namespace

void ShopBook::works_for(std::function<QString()> person) {
    person_ = std::move(person);
    gave_first_code_.reset();
}

/// A name that proves nothing guards nothing: what is the owner's is guarded once an owner has a code, and whoever gave
/// the first one goes on with who is who. A learner is one by the shop's word, and fetches somebody.
BookResult<void> ShopBook::may(ShopWork work) const {
    if (!person_)
        return {};
    const auto known = people().all();
    if (!known)
        return {}; // a book that cannot be read is not written either
    const auto found = std::ranges::find(*known, person_(), &ShopPerson::name);
    const Role role = found == known->end() ? Role::machinist : found->role;
    if (block::suffices(role, block::role_for(work)))
        return {};
    const auto once_more = [](const char* who) {
        return QStringLiteral("Bring %1 to the bench (Ctrl+Shift+W), then do it once more.").arg(QLatin1String(who));
    };
    if (role == Role::learner) {
        if (std::ranges::all_of(*known, [](const ShopPerson& p) { return p.role == Role::learner; }))
            return {}; // there is nobody to fetch
        return refused(QStringLiteral("A learner does not change %1.").arg(words_of(work)),
                       once_more("somebody who is none"));
    }
    if (std::ranges::none_of(*known, [](const ShopPerson& p) { return p.role == Role::owner && p.has_code; })) {
        gave_first_code_ = person_();
        return {};
    }
    if (work == ShopWork::people && gave_first_code_ == person_())
        return {};
    return refused(QStringLiteral("Only the owner changes %1.").arg(words_of(work)), once_more("the owner"));
}

} // namespace pallix::storage
