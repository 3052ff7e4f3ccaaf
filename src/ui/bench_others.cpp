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
        top_->show_line(line.state() == session::ShopLine::State::at_shop, here_too);
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
    connect(&line, &session::ShopLine::state_changed, this, show_line);
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

/// People, instruments, engines, the board: what somebody else has changed is read again.
void BenchWindow::look_at_the_shop() {
    context_.instruments.look_again();
    if (shop_)
        shop_->reread();
    refresh();
}

void BenchWindow::decide_contradiction() {
    const auto& contradiction = context_.session.contradiction();
    if (!contradiction)
        return;
    std::vector<block::Entry> mine;
    for (const block::Payload& payload : contradiction->mine)
        mine.push_back({0, context_.session.now(), context_.session.at_bench().person, payload});
    const QString words =
        tr("Meanwhile this was written at another bench:\n\n%1\n\nYours, which is not in the job:\n\n%2")
            .arg(lines_of(context_, contradiction->theirs), lines_of(context_, mine));
    const int chosen =
        ask_which(this, tr("Somebody was there before"), words, {tr("Write mine as well"), tr("Leave it at theirs")});
    if (chosen == 0)
        static_cast<void>(done(context_.session.take_mine_as_well()));
    else
        context_.session.leave_theirs();
    refresh();
}

} // namespace pallix::ui
