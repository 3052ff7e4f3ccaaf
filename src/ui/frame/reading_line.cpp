// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/reading_line.h"

#include "wording/sentences.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

namespace pallix::ui {
namespace {

// What a deck height may differ from what is expected before it is asked about (common practice, no source).
constexpr double believable_as_found = 0.6; // mm
constexpr double believable_after_cut = 0.127;

} // namespace

ReadingLine::ReadingLine(Context context, QWidget* parent)
    : QWidget(parent), context_(context), place_(new QLabel(this)), detail_(new QLabel(this)),
      field_(new QLineEdit(this)), echo_(new QLabel(this)),
      gauge_label_(new QLabel(tr("gauge, std. uncertainty"), this)), gauge_(new QLineEdit(this)),
      back_(new QPushButton(tr("Back"), this)), skip_(new QPushButton(tr("Skip"), this)) {
    setFixedHeight(72);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(18, 8, 12, 8);
    row->setSpacing(12);
    auto* words = new QVBoxLayout;
    words->setSpacing(0);
    place_->setFont(font_of(Type::number, true));
    detail_->setFont(font_of(Type::small));
    words->addWidget(place_);
    words->addWidget(detail_);
    row->addLayout(words);
    field_->setFont(font_of(Type::title));
    field_->setFixedWidth(180);
    field_->setFixedHeight(44);
    field_->setObjectName(QStringLiteral("reading"));
    field_->setAccessibleName(tr("reading"));
    field_->setToolTip(tr("Type the height and press Enter (Ctrl+R goes here)"));
    field_->installEventFilter(this);
    row->addWidget(field_);
    echo_->setWordWrap(true);
    echo_->setObjectName(QStringLiteral("echo"));
    row->addWidget(echo_, 1);
    auto* gauge = new QVBoxLayout;
    gauge->setSpacing(2);
    gauge_label_->setFont(font_of(Type::small));
    gauge_->setFixedWidth(140);
    gauge_->setObjectName(QStringLiteral("gauge-uncertainty"));
    gauge_->setAccessibleName(tr("standard uncertainty of the height gauge"));
    gauge_->setToolTip(tr("How sure one reading is: 0.0001 in, 2 tenths, 2 µm. Without it no verdict can be given."));
    gauge_->setPlaceholderText(tr("not stated"));
    gauge->addWidget(gauge_label_);
    gauge->addWidget(gauge_);
    row->addLayout(gauge);
    row->addWidget(back_);
    row->addWidget(skip_);
    back_->setToolTip(tr("Strike the last reading and read it again (Page Up)"));
    skip_->setToolTip(tr("Leave this place for later (Page Down)"));
    connect(field_, &QLineEdit::textChanged, this, &ReadingLine::echo);
    connect(field_, &QLineEdit::returnPressed, this, &ReadingLine::take);
    connect(gauge_, &QLineEdit::editingFinished, this, &ReadingLine::state_gauge);
    connect(back_, &QPushButton::clicked, this, &ReadingLine::back);
    connect(skip_, &QPushButton::clicked, this, &ReadingLine::skip);
}

void ReadingLine::set_bank(const std::optional<std::string>& bank) {
    if (bank != bank_)
        skipped_.clear();
    bank_ = bank;
    refresh();
}

void ReadingLine::take_focus() {
    field_->setFocus(Qt::ShortcutFocusReason);
    field_->selectAll();
}

void ReadingLine::refresh() {
    asked_.reset();
    if (bank_ && context_.session.has_job()) {
        asked_ = session::next_reading(context_.session.state(), context_.session.assessment(), *bank_, skipped_);
        if (!asked_ && !skipped_.empty()) { // what was skipped comes round again
            skipped_.clear();
            asked_ = session::next_reading(context_.session.state(), context_.session.assessment(), *bank_, skipped_);
        }
    }
    const bool reads = asked_.has_value();
    for (QWidget* w : std::initializer_list<QWidget*>{field_, gauge_, gauge_label_, back_, skip_, echo_})
        w->setVisible(reads);
    if (!reads) {
        place_->setText(tr("No reading is asked for here"));
        detail_->setText(context_.session.has_job() ? tr("Heights are read on the decks page (F4).")
                                                    : tr("Open a job first."));
    } else {
        const auto lengths = context_.lengths();
        const auto& bank = *context_.session.state().blueprint->bank(asked_->bank);
        place_->setText(tr("%1, %2").arg(qt(wording::bank_name(bank)), qt(asked_->place_name)));
        detail_->setText(tr("deck height %1 of %2 · expected %3")
                             .arg(asked_->number)
                             .arg(asked_->of)
                             .arg(qt(lengths.with_unit(asked_->expected))));
        field_->setPlaceholderText(tr("e.g. −0.4 thou"));
        const auto u = context_.preferences.gauge_uncertainty();
        if (!gauge_->hasFocus())
            gauge_->setText(u ? qt(lengths.fine(*u)) : QString());
        echo();
    }
    QPalette quiet = detail_->palette();
    quiet.setColor(QPalette::WindowText, context_.palette().quiet);
    detail_->setPalette(quiet);
    gauge_label_->setPalette(quiet);
    update();
    Q_EMIT asks_for(asked_);
}

block::Expected ReadingLine::expected() const {
    const auto& deck = context_.session.state().deck(asked_->bank);
    return {asked_->expected, deck.cuts.empty() ? believable_as_found : believable_after_cut,
            context_.preferences.unit()};
}

void ReadingLine::say(const QString& text, const QColor& colour) {
    QPalette p = echo_->palette();
    p.setColor(QPalette::WindowText, colour);
    echo_->setPalette(p);
    echo_->setText(text);
}

void ReadingLine::echo() {
    if (!asked_)
        return;
    const Palette& p = context_.palette();
    if (field_->text().trimmed().isEmpty()) {
        say(tr("A whole height, or its deviation with a sign or in thou, tenths, µm."), p.quiet);
        return;
    }
    const auto understood = block::read_shorthand(field_->text().toStdString(), expected());
    if (understood)
        say(qt(wording::understood_sentence(*understood, context_.lengths())), p.ink);
    else
        say(qt(understood.error()), p.fails);
}

void ReadingLine::take() {
    if (!asked_)
        return;
    const QString typed = field_->text().trimmed();
    const auto understood = block::read_shorthand(typed.toStdString(), expected());
    if (!understood) {
        say(qt(understood.error()), context_.palette().fails);
        return;
    }
    if (understood->suspicion != block::Suspicion::none && questioned_ != typed) {
        questioned_ = typed;
        say(qt(wording::suspicion_question(*understood, context_.lengths())), context_.palette().cannot_tell);
        return;
    }
    state_gauge();
    const session::ReadingAsked asked = *asked_;
    const auto taken =
        context_.session.take_reading({asked.bank, asked.place.place, asked.place_name, understood->value,
                                       typed.toStdString(), context_.preferences.gauge_uncertainty()});
    if (!taken) {
        say(qt(taken.error().front().text()), context_.palette().fails);
        return;
    }
    questioned_.clear();
    field_->clear();
    refresh();
    say(tr("taken: %1, %2").arg(qt(asked.place_name), qt(context_.lengths().with_unit(understood->value))),
        context_.palette().quiet);
}

void ReadingLine::skip() {
    if (!asked_)
        return;
    skipped_.push_back(asked_->number - 1);
    field_->clear();
    refresh();
    field_->setFocus();
}

void ReadingLine::back() {
    if (!bank_)
        return;
    const auto& entries = context_.session.entries();
    const auto out = block::struck(entries);
    for (std::size_t i = entries.size(); i-- > 0;) {
        if (out[i] || std::holds_alternative<block::Strike>(entries[i].payload))
            continue;
        const auto* reading = std::get_if<block::DeckReading>(&entries[i].payload);
        if (!reading || reading->bank != *bank_)
            break;
        if (const auto done = context_.session.strike(entries[i].sequence, tr("read again")); !done)
            say(qt(done.error().front().text()), context_.palette().fails);
        field_->setFocus();
        return;
    }
    say(tr("There is no reading just before this one."), context_.palette().quiet);
}

void ReadingLine::state_gauge() {
    const QString text = gauge_->text().trimmed();
    if (text.isEmpty()) {
        context_.preferences.set_gauge_uncertainty(std::nullopt);
        return;
    }
    const auto mm = block::read_length(text.toStdString(), context_.preferences.unit());
    if (!mm || !(*mm > 0)) {
        say(tr("The gauge's uncertainty: %1").arg(mm ? tr("it must be greater than 0") : qt(mm.error())),
            context_.palette().fails);
        return;
    }
    context_.preferences.set_gauge_uncertainty(*mm);
    gauge_->setText(qt(context_.lengths().fine(*mm)));
}

bool ReadingLine::eventFilter(QObject* watched, QEvent* event) {
    if (watched == field_ && event->type() == QEvent::KeyPress) {
        switch (static_cast<QKeyEvent*>(event)->key()) {
        case Qt::Key_PageUp:
            back();
            return true;
        case Qt::Key_PageDown:
            skip();
            return true;
        case Qt::Key_Escape:
            field_->clear();
            return true;
        default:
            break;
        }
    }
    return QWidget::eventFilter(watched, event);
}

void ReadingLine::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), context_.palette().panel);
    painter.fillRect(QRect(0, 0, width(), 1), context_.palette().hairline);
}

} // namespace pallix::ui
