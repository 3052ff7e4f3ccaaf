// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/top_bar.h"

#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "session/certainty_work.h"
#include "ui/frame/plain_label.h"
#include "wording/common/sentences.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QPainter>
#include <QPushButton>

namespace pallix::ui {

TopBar::TopBar(Context context, QWidget* parent)
    : QWidget(parent), context_(context), title_(new PlainLabel(this)), datum_(new PlainLabel(this)),
      line_(new PlainLabel(this)), inch_(new QPushButton(tr("in"), this)), mm_(new QPushButton(tr("mm"), this)),
      theme_(new QPushButton(this)) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 6, 12, 6);
    row->setSpacing(8);
    set_type(title_, Type::title, true);
    row->addWidget(title_, 1);
    row->addWidget(datum_);
    row->addWidget(line_);
    line_->setObjectName(QStringLiteral("line"));
    line_->setContentsMargins(12, 0, 0, 0);
    line_->hide();
    row->addSpacing(16);
    auto* units = new QButtonGroup(this);
    for (QPushButton* button : {inch_, mm_}) {
        button->setCheckable(true);
        button->setFocusPolicy(Qt::TabFocus);
        units->addButton(button);
        row->addWidget(button);
    }
    inch_->setToolTip(tr("Show lengths in inch (Ctrl+U changes)"));
    mm_->setToolTip(tr("Show lengths in millimetres (Ctrl+U changes)"));
    theme_->setFocusPolicy(Qt::TabFocus);
    theme_->setToolTip(tr("Light for a bright shop, dark for a dim one (Ctrl+T)"));
    row->addWidget(theme_);
    connect(inch_, &QPushButton::clicked, this, [this] { context_.preferences.set_unit(block::Unit::inch); });
    connect(mm_, &QPushButton::clicked, this, [this] { context_.preferences.set_unit(block::Unit::mm); });
    connect(theme_, &QPushButton::clicked, this, [this] {
        context_.preferences.set_theme(context_.preferences.theme() == session::Theme::dark ? session::Theme::light
                                                                                            : session::Theme::dark);
    });
    connect(&context_.gauge, &session::GaugeLink::changed, this, &TopBar::refresh);
    refresh();
}

void TopBar::refresh() {
    const block::JobState& state = context_.session.state();
    title_->setText(context_.session.has_job() ? qt(intake_of(state).title) : tr("Pallix"));
    QStringList facts;
    if (context_.session.has_job() && intake_of(state).blueprint) {
        facts << qt(intake_of(state).blueprint->name)
              << tr("datum: mains, %1").arg(qt(wording::datum_name(*intake_of(state).blueprint)));
        if (tunnel_of(state).latest && !tunnel_of(state).latest->logs.empty() &&
            tunnel_of(state).latest->logs.front().temperature_c)
            facts << tr("probed at %1 °C").arg(*tunnel_of(state).latest->logs.front().temperature_c, 0, 'f', 1);
    }
    if (const auto& certainty = context_.session.certainty(); certainty.running())
        facts << tr("working out uncertainties, %1 %").arg(100 * certainty.share(), 0, 'f', 0);
    if (const auto bench = context_.session.at_bench(); bench.role == block::Role::learner)
        facts << tr("%1, learning").arg(qt(bench.person));
    if (context_.gauge.is_open())
        facts << tr("gauge on the line");
    datum_->setText(facts.join(QStringLiteral("  ·  ")));
    QPalette quiet = palette();
    quiet.setColor(QPalette::WindowText, context_.palette().quiet);
    datum_->setPalette(quiet);
    QPalette line = quiet;
    if (!shown_.at_shop && !shown_.keeps)
        line.setColor(QPalette::WindowText, context_.palette().fails);
    else if (!shown_.at_shop || shown_.waiting > 0) // it works on
        line.setColor(QPalette::WindowText, context_.palette().cannot_tell);
    line_->setPalette(line);
    const bool inch = context_.preferences.unit() == block::Unit::inch;
    inch_->setChecked(inch);
    mm_->setChecked(!inch);
    theme_->setText(context_.preferences.theme() == session::Theme::dark ? tr("day") : tr("night"));
    update();
}

void TopBar::show_line(const Line& line) {
    QStringList words{line.at_shop ? tr("at the shop") : tr("alone")};
    if (!line.here_too.isEmpty())
        words << tr("with %1 at this job").arg(line.here_too.join(QStringLiteral(", ")));
    if (line.waiting > 0)
        words << tr("%1 not yet there").arg(line.waiting);
    line_->setText(words.join(QStringLiteral(", ")));
    if (line.at_shop && line.waiting == 0)
        line_->setToolTip(tr("What you enter stands in the shop's book at once, and other benches see it."));
    else if (line.at_shop)
        line_->setToolTip(
            tr("Some of what was entered here while the line was broken contradicts what others did. Open "
               "the job, and decide."));
    else if (line.keeps)
        line_->setToolTip(
            tr("The shop's server does not answer: it is asked every two seconds. What you enter into jobs "
               "is kept at this bench and goes there by itself; people, engines and limits are changed "
               "at the shop only."));
    else
        line_->setToolTip(tr("The shop's server does not answer: it is asked every two seconds. Nothing can be entered "
                             "until it does."));
    shown_ = line;
    refresh();
    line_->show();
}

void TopBar::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), context_.palette().panel);
    painter.fillRect(QRect(0, height() - 1, width(), 1), context_.palette().hairline);
}

} // namespace pallix::ui
