// SPDX-License-Identifier: GPL-3.0-or-later
// Work at a bench that is alone: it waits for the shop, and is laid beside what others did when the line is back.
#include "planning/common/entry_rules.h"
#include "planning/steps/any_time.h"
#include "session/session_worked.h"
#include "storage/outbox.h"

#include <algorithm>

namespace pallix::session {

using block::Entry;
using block::Payload;

namespace {

std::vector<Payload> said_in(const storage::Part& part) {
    std::vector<Payload> all;
    all.reserve(part.entries.size());
    for (const Entry& entry : part.entries)
        all.push_back(entry.payload);
    return all;
}

bool is_the_same(const Entry& a, const Entry& b) {
    return a.sequence == b.sequence && a.time == b.time && a.person == b.person &&
           block::payload_json(a.payload) == block::payload_json(b.payload);
}

/// Somebody has answered the same meanwhile, or the job does not allow it any more. Where it cannot be worked out,
/// whoever sees both can tell.
bool contradicts(const storage::Outbox::Met& met, const std::string& now) try {
    const block::Folded state = block::fold(met.shop);
    const planning::Assessment assessment = planning::assess(state, nullptr, now);
    const std::vector<bool> out = block::struck(met.shop);
    for (const Entry& entry : met.part.entries) {
        if (planning::fault_now(state, assessment, entry.payload))
            return true;
        if (const auto* strike = std::get_if<block::Strike>(&entry.payload))
            for (std::size_t i = 0; i < met.shop.size(); ++i)
                if (met.shop[i].sequence == strike->sequence && out[i])
                    return true;
    }
    if (met.part.step.empty())
        return false;
    const auto step = planning::step_by_id(state, assessment, met.part.step);
    return !step || (step->state != planning::StepState::now && step->state != planning::StepState::ready);
} catch (const std::exception&) {
    return true;
}

} // namespace

/// To the shop's book, or, where its server does not answer, to what waits here for it.
storage::BookResult<void> Session::write_from(std::size_t first) {
    const auto begin = entries_.begin() + static_cast<std::ptrdiff_t>(first);
    const std::vector<Entry> more(begin, entries_.end());
    auto written = book_.append(*job_, more, answering_);
    if (written || !written.error().no_answer || !book_.go_alone(*job_, {entries_.begin(), begin}))
        return written;
    return book_.append(*job_, more, answering_);
}

void Session::go_alone() {
    if (!book_.is_alone() && job_)
        static_cast<void>(book_.go_alone(*job_, entries_)); // where no copy is kept, nothing can be entered
}

/// @return what broke it off; nothing where it can go on with the next part
std::optional<storage::BookFault> Session::deliver_part(const storage::Outbox& outbox, const storage::Part& part,
                                                        Delivered& delivered, std::set<storage::JobId>& held) {
    constexpr int tries = 20; // others may go on writing to the same job
    for (int i = 0; i < tries; ++i) {
        auto met = outbox.meet(part.number);
        if (!met)
            return met.error();
        const storage::JobId job = met->part.job;
        if (!met->waits || held.contains(job))
            return {};
        std::vector<Entry>& theirs = met->theirs;
        if (!theirs.empty() && contradicts(*met, clock_())) {
            held.insert(job);
            if (job == job_ && !contradiction_)
                contradiction_ = Contradiction{std::move(theirs), said_in(met->part), part.number};
            return {};
        }
        const auto sent = outbox.send(part.number);
        if (!sent && sent.error().written_meanwhile)
            continue;
        if (!sent)
            return sent.error();
        for (Entry& one : theirs)
            if (job == job_ &&
                std::ranges::find(delivered.theirs, one.sequence, &Entry::sequence) == delivered.theirs.end())
                delivered.theirs.push_back(std::move(one));
        return {};
    }
    return storage::BookFault{QStringLiteral("Others write to the job all the time."),
                              QStringLiteral("What waits is sent when the line is looked at next.")};
}

Session::Delivered Session::deliver() {
    Delivered delivered;
    const auto outbox = book_.outbox();
    const auto call_by = [&] { // it was opened here, and the shop has given it another number
        const bool renamed = job_ && outbox->called(*job_) != *job_;
        if (renamed)
            job_ = outbox->called(*job_);
        return renamed;
    };
    if (!outbox || book_.is_alone())
        return delivered;
    if (const auto sent = outbox->send_instruments(); !sent && !sent.error().no_answer)
        delivered.faults = as_faults(sent.error());
    if (!call_by() && outbox->waiting() == 0) {
        if (!is_as_shop_has_it())
            read_anew();
        return delivered;
    }
    worked_->writing.insist();
    contradiction_.reset();
    const auto parts = outbox->parts();
    if (!parts) {
        delivered.faults = as_faults(parts.error());
        return delivered;
    }
    std::set<storage::JobId> held;
    for (const storage::Part& part : *parts) {
        if (held.contains(part.job))
            continue; // what stands before it in its job is not there
        const auto broken = deliver_part(*outbox, part, delivered, held);
        if (!broken)
            continue;
        if (broken->no_answer) { // it goes on when the line is back; until then it stands behind what was heard
            static_cast<void>(book_.go_alone());
            break;
        }
        if (delivered.faults.empty())
            delivered.faults = as_faults(*broken);
        held.insert(part.job);
    }
    call_by();
    read_anew();
    Q_EMIT this->delivered();
    return delivered;
}

/// A server that was set back to a backup may lack what the window has from it.
bool Session::is_as_shop_has_it() const {
    if (!job_ || entries_.empty())
        return true;
    const auto last = book_.entries_after(*job_, entries_.back().sequence - 1);
    return !last || (!last->empty() && is_the_same(last->front(), entries_.back()));
}

/// The open job as the book has it: what was entered here may have got another place.
void Session::read_anew() {
    if (!job_)
        return;
    auto now = book_.entries(*job_);
    if (!now || now->empty())
        return;
    const std::size_t same =
        static_cast<std::size_t>(std::ranges::mismatch(entries_, *now, is_the_same).in1 - entries_.begin());
    if (same == entries_.size() && same == now->size())
        return;
    entries_ = std::move(*now);
    try {
        refresh();
    } catch (const std::exception& error) {
        Q_EMIT remarked(tr("The job cannot be worked out as it is at the shop (%1). Open it again.")
                            .arg(QString::fromUtf8(error.what())));
        return;
    }
    Q_EMIT entries_added(static_cast<int>(same));
}

std::optional<std::int64_t> Session::at_shop_until() const {
    return job_ ? book_.at_shop_until(*job_) : std::nullopt;
}

Outcome Session::take_mine_as_well() {
    if (!contradiction_)
        return tl::unexpected(one_fault("nothing contradicts", "an answer that did"));
    Contradiction decided = std::move(*std::exchange(contradiction_, std::nullopt));
    const auto outbox = book_.outbox();
    if (decided.part == 0 || !outbox)
        return take_all(std::move(decided.mine));
    // Others may have gone on since it was asked.
    const auto met = outbox->meet(decided.part);
    const auto sent = met && met->waits ? outbox->send(decided.part) : storage::BookResult<void>();
    if (!met || !sent)
        return tl::unexpected(as_faults(met ? sent.error() : met.error()));
    read_anew();
    return {};
}

void Session::leave_theirs() {
    const auto decided = std::exchange(contradiction_, std::nullopt);
    const auto outbox = book_.outbox();
    if (decided && decided->part > 0 && outbox)
        if (const auto dropped = outbox->drop(decided->part); !dropped)
            Q_EMIT remarked(dropped.error().what + QLatin1Char(' ') + dropped.error().way_out);
}

} // namespace pallix::session
