// SPDX-License-Identifier: GPL-3.0-or-later
// Others at other benches of one shop: what they do is shown as it happens.
#include "session/shop_line.h"
#include "ui/bench_window.h"
#include "ui/dialogs/ask.h"
#include "ui/frame/call_panel.h"
#include "ui/frame/top_bar.h"
#include "ui/shop/shop_view.h"
#include "wording/common/sentences.h"

#include <QTimer>
#include <chrono>

namespace pallix::ui {
namespace {

constexpr auto a_moment = std::chrono::milliseconds(100); // what comes together is shown together

/// "Ole: cylinder 3 reads 84.521 mm", a line each.
QString lines_of(const Context& context, const std::vector<block::Entry>& entries) {
    constexpr std::size_t at_a_glance = 4;
    QStringList lines;
    for (std::size_t i = 0; i < std::min(entries.size(), at_a_glance); ++i)
        lines << QStringLiteral("%1: %2").arg(
            qt(entries[i].person), qt(wording::entry_sentence(entries[i], context.session.state(), context.lengths())));
    if (entries.size() > at_a_glance)
        lines << QCoreApplication::translate("others", "… and %1 more").arg(entries.size() - at_a_glance);
    return lines.join(QLatin1Char('\n'));
}

} // namespace

void BenchWindow::listen(session::ShopLine& line) {
    if (line.state() == session::ShopLine::State::none)
        return;
    const auto show_line = [this, &line] {
        QStringList here_too;
        for (const storage::Colleague& one : line.colleagues())
            if (context_.session.job() == one.job && !here_too.contains(one.person))
                here_too << one.person;
        const storage::ShopBook& book = context_.session.book();
        const auto outbox = book.outbox();
        top_->show_line({line.state() == session::ShopLine::State::at_shop && !book.is_alone(), outbox.has_value(),
                         here_too, outbox ? outbox->waiting() : 0});
    };
    const auto say_here = [this, &line, show_line] {
        line.set_here(context_.preferences.person(), context_.session.job().value_or(0));
        show_line();
    };
    connect(&context_.session, &session::Session::job_opened, this, say_here);
    connect(&context_.preferences, &session::Preferences::person_changed, this, say_here);
    connect(&line, &session::ShopLine::colleagues_changed, this, show_line);
    auto* soon = new QTimer(this);
    soon->setSingleShot(true);
    soon->setInterval(a_moment);
    connect(soon, &QTimer::timeout, this, &BenchWindow::look_at_the_shop);
    connect(call_, &CallPanel::contradicted, this, &BenchWindow::decide_contradiction, Qt::QueuedConnection);
    connect(&context_.session, &session::Session::entries_added, this, show_line);
    connect(&context_.session, &session::Session::delivered, this, show_line);
    connect(&context_.session, &session::Session::job_opened, this, &BenchWindow::send_what_waits);
    connect(&line, &session::ShopLine::broke, &context_.session, &session::Session::go_alone);
    connect(&line, &session::ShopLine::state_changed, this, [this, show_line] {
        say_of_copy();
        send_what_waits();
        show_line();
    });
    connect(&line, &session::ShopLine::job_moved, this, [this](qint64 job) {
        if (context_.session.job() == job)
            catch_up();
        if (shop_)
            shop_->job_moved(job);
    });
    connect(&line, &session::ShopLine::table_changed, soon, qOverload<>(&QTimer::start));
    connect(&line, &session::ShopLine::much_changed, soon, qOverload<>(&QTimer::start));
    connect(&line, &session::ShopLine::much_changed, this, &BenchWindow::catch_up);
    say_here();
    say_of_copy();
}

/// What the person should know of this bench's copy of the book, once.
void BenchWindow::say_of_copy() {
    if (const QString& remark = context_.session.book().copy_remark(); remark != said_of_copy_ && !remark.isEmpty())
        call_->say_of_others(remark, false);
    said_of_copy_ = context_.session.book().copy_remark();
}

/// The step that is called may be another one after that: nobody answers it by accident.
void BenchWindow::catch_up() {
    const auto before = call_->step();
    const std::size_t known = context_.session.entries().size();
    if (const auto caught_up = context_.session.catch_up(); !caught_up)
        return report(caught_up.error());
    const std::vector<block::Entry>& all = context_.session.entries();
    if (all.size() == known)
        return;
    const auto after = call_->step();
    const bool another = before.has_value() != after.has_value() || (before && before->id != after->id);
    call_->say_of_others(lines_of(context_, {all.begin() + static_cast<std::ptrdiff_t>(known), all.end()}), another);
}

/// What was entered while the line was broken; what others did meanwhile is laid beside it.
void BenchWindow::send_what_waits() {
    sends_later_ = deciding_;
    if (deciding_)
        return; // what is asked about stays as it is shown
    const session::Session::Delivered delivered = context_.session.deliver();
    if (!delivered.faults.empty())
        report(delivered.faults);
    if (!delivered.theirs.empty())
        call_->say_of_others(lines_of(context_, delivered.theirs), false);
    if (context_.session.contradiction()) // the window is shown as it is now first
        QMetaObject::invokeMethod(this, &BenchWindow::decide_contradiction, Qt::QueuedConnection);
}

/// People, instruments, engines, the board: what somebody else has changed is read again.
void BenchWindow::look_at_the_shop() {
    context_.instruments.look_again();
    if (shop_)
        shop_->reread();
    refresh();
}

void BenchWindow::decide_contradiction() {
    const auto& contradiction = context_.session.contradiction();
    if (!contradiction || deciding_)
        return;
    std::vector<block::Entry> mine;
    for (const block::Payload& payload : contradiction->mine)
        mine.push_back({0, context_.session.now(), context_.session.at_bench().person, payload});
    const QString words =
        tr("Meanwhile this was written at another bench:\n\n%1\n\nYours, which is not in the job:\n\n%2")
            .arg(lines_of(context_, contradiction->theirs), lines_of(context_, mine));
    const bool waits = contradiction->part > 0; // it need not be decided now
    const QStringList ways{tr("Write mine as well"), tr("Leave it at theirs")};
    deciding_ = true;
    const int chosen =
        ask_which(this, tr("Somebody was there before"), words, waits ? ways + QStringList{tr("Decide later")} : ways);
    deciding_ = false;
    if (chosen == 0)
        static_cast<void>(done(context_.session.take_mine_as_well()));
    else if (chosen == 1)
        context_.session.leave_theirs();
    else
        context_.session.decide_later();
    if ((waits && chosen < 2) || sends_later_)
        send_what_waits(); // what stood behind it
    refresh();
}

} // namespace pallix::ui
