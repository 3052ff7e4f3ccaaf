// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/decks/cutter_dialog.h"

#include "block/state/deck_state.h"
#include "ui/frame/choice.h"

#include "ui/frame/echo.h"
#include "ui/frame/plain_label.h"
#include "wording/decks/deck_words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QSpinBox>
#include <QVBoxLayout>

namespace pallix::ui {
namespace {

/// A single-insert cutter of a size a small mill swings (common practice, no source).
constexpr block::CutterFitted usual_cutter{250, 2, 1.2, 250, 0.12, 320, 0.05, false};

} // namespace

CutterDialog::CutterDialog(Context context, double deck_length, QWidget* parent)
    : QDialog(parent), context_(context), deck_length_(deck_length), diameter_(new QLineEdit(this)),
      nose_(new QLineEdit(this)), speed_(new QLineEdit(this)), feed_(new QLineEdit(this)),
      finish_speed_(new QLineEdit(this)), finish_feed_(new QLineEdit(this)), ra_(new QLineEdit(this)),
      teeth_(new QSpinBox(this)), new_inserts_(new QCheckBox(tr("inserts changed"), this)),
      gasket_(new QComboBox(this)), rough_(new PlainLabel(this)), fine_(new PlainLabel(this)),
      echo_(new Echo(context, QStringLiteral("cutter-echo"), this)) {
    setWindowTitle(tr("Cutter and finish"));
    setMinimumWidth(560);
    const auto& state = context_.session.state();
    const block::CutterFitted now = decks_of(state).cutter ? decks_of(state).cutter->payload : usual_cutter;
    const auto l = context_.lengths();
    const auto set = [](QLineEdit* edit, const char* name, const QString& spoken, const QString& text) {
        edit->setObjectName(QString::fromLatin1(name));
        edit->setAccessibleName(spoken);
        edit->setText(text);
    };
    set(diameter_, "cutter-diameter", tr("cutter diameter"), qt(l.with_unit(now.diameter)));
    set(nose_, "cutter-nose", tr("nose radius"), qt(l.with_unit(now.nose_radius)));
    set(speed_, "cutter-speed", tr("cutting speed, m/min"), QString::number(now.speed));
    set(feed_, "cutter-feed", tr("feed per tooth"), qt(l.with_unit(now.feed)));
    set(finish_speed_, "cutter-finish-speed", tr("finishing speed, m/min"), QString::number(now.finish_speed));
    set(finish_feed_, "cutter-finish-feed", tr("finishing feed per tooth"), qt(l.with_unit(now.finish_feed)));
    set(ra_, "gasket-ra", tr("Ra at most, µm"), QString());
    teeth_->setRange(1, 60);
    teeth_->setValue(now.teeth);
    for (const auto kind :
         {block::GasketKind::composition, block::GasketKind::multilayer_steel, block::GasketKind::soft_copper})
        add_choice(gasket_, kind, qt(wording::gasket_name(kind)));
    gasket_->setObjectName(QStringLiteral("gasket-kind"));
    const auto usual = [this] {
        ra_->setText(QString::number(planning::usual_ra(choice_in<block::GasketKind>(gasket_)) * 1000));
    };
    if (decks_of(state).gasket) {
        set_choice(gasket_, decks_of(state).gasket->kind);
        ra_->setText(QString::number(decks_of(state).gasket->ra_at_most * 1000));
    } else {
        usual();
    }
    connect(gasket_, &QComboBox::currentIndexChanged, this, usual);
    auto* form = new QFormLayout;
    form->addRow(tr("Cutter &diameter"), diameter_);
    form->addRow(tr("&Teeth"), teeth_);
    form->addRow(tr("&Nose radius"), nose_);
    form->addRow(tr("Cutting &speed, m/min"), speed_);
    form->addRow(tr("&Feed per tooth"), feed_);
    form->addRow(QString(), rough_);
    form->addRow(tr("Finishing s&peed, m/min"), finish_speed_);
    form->addRow(tr("Finishing f&eed per tooth"), finish_feed_);
    form->addRow(QString(), fine_);
    form->addRow(QString(), new_inserts_);
    form->addRow(tr("Finish for a"), gasket_);
    form->addRow(tr("&Ra at most, µm"), ra_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 24, 24, 16);
    column->setSpacing(12);
    column->addLayout(form);
    column->addWidget(echo_);
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &CutterDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    for (QLineEdit* edit : {diameter_, nose_, speed_, feed_, finish_speed_, finish_feed_, ra_})
        connect(edit, &QLineEdit::textChanged, this, &CutterDialog::follow);
    connect(teeth_, &QSpinBox::valueChanged, this, &CutterDialog::follow);
    follow();
}

block::CutterFitted CutterDialog::typed(bool& fine) {
    block::CutterFitted c;
    const auto length = [&](QLineEdit* edit) { return fine ? echo_->length_in(edit, fine).value_or(0) : 0; };
    const auto number = [&](QLineEdit* edit) { return fine ? echo_->number_in(edit, fine).value_or(0) : 0; };
    c.diameter = length(diameter_);
    c.teeth = teeth_->value();
    c.nose_radius = length(nose_);
    c.speed = number(speed_);
    c.feed = length(feed_);
    c.finish_speed = number(finish_speed_);
    c.finish_feed = length(finish_feed_);
    c.new_inserts = new_inserts_->isChecked();
    return c;
}

void CutterDialog::follow() {
    echo_->say(tr("Rigid set-up first. The worst feed mark is that of one tooth standing proud, once a turn."));
    QWidget* caret = focusWidget();
    bool fine = true;
    const block::CutterFitted c = typed(fine);
    if (caret)
        caret->setFocus(); // a half-typed number keeps the caret
    const bool whole = fine && c.diameter > 0 && c.speed > 0 && c.feed > 0 && c.finish_speed > 0 && c.finish_feed > 0;
    const auto say = [&](QLabel* label, block::PassKind kind) {
        label->setText(
            whole ? qt(wording::milling_sentence(planning::milling_for(c, kind, deck_length_), context_.lengths()))
                  : QString());
    };
    say(rough_, block::PassKind::pass);
    say(fine_, block::PassKind::finish);
    if (!whole)
        return;
    const double ra = planning::milling_for(c, block::PassKind::finish, deck_length_).ra * 1000;
    bool read = true;
    const auto limit = echo_->number_in(ra_, read);
    if (read && limit && ra > *limit)
        echo_->complain(
            tr("The finishing feed leaves Ra %1 µm in theory: more than the gasket takes.").arg(ra, 0, 'f', 2));
}

void CutterDialog::accept() {
    bool fine = true;
    const block::CutterFitted c = typed(fine);
    const auto ra = fine ? echo_->number_in(ra_, fine) : std::nullopt;
    if (!fine || !echo_->took(context_.session.take(c)))
        return;
    if (ra &&
        !echo_->took(context_.session.take(block::GasketChosen{choice_in<block::GasketKind>(gasket_), *ra / 1000})))
        return;
    QDialog::accept();
}

} // namespace pallix::ui
