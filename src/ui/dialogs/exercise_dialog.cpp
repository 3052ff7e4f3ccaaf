// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/exercise_dialog.h"

#include "block/drawing/recipe.h"
#include "block/entries/job_entries.h"
#include "reporting/save.h"
#include "ui/dialogs/exercise_drawing.h"
#include "ui/files.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"
#include "wording/common/sentences.h"

#include <QComboBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace pallix::ui {

ExerciseDialog::ExerciseDialog(Context context, QWidget* parent)
    : QDialog(parent), context_(context), engine_(new QComboBox(this)), title_(new QLineEdit(this)),
      story_(new QPlainTextEdit(this)), errors_(new QPlainTextEdit(this)), drawing_(new ExerciseDrawing(context, this)),
      told_(new PlainLabel(this)), save_(new QPushButton(this)), begin_(new QPushButton(this)) {
    set_explained(this, QStringLiteral("page-shop-practice"));
    setWindowTitle(tr("An exercise of your own"));
    setMinimumSize(960, 640);
    engine_->setObjectName(QStringLiteral("exercise-engine"));
    title_->setObjectName(QStringLiteral("exercise-title"));
    story_->setObjectName(QStringLiteral("exercise-story"));
    errors_->setObjectName(QStringLiteral("exercise-errors"));
    told_->setObjectName(QStringLiteral("exercise-told"));
    title_->setPlaceholderText(tr("what it is called"));
    story_->setPlaceholderText(tr("what is told of the block, and what is asked"));
    errors_->setPlaceholderText(tr(
        "a line each, mm:\nmain.3 up 0.03\ndeck.C dip 120 40 0.08 30\nbore.C.2 oversize 0.2\ngauge knocked 12 0.02"));
    story_->setTabChangesFocus(true);
    errors_->setTabChangesFocus(true);
    told_->setWordWrap(true);
    set_announced(told_);
    auto* left = new QVBoxLayout;
    const auto add = [&](const QString& name, QWidget* field, int stretch) {
        auto* label = new PlainLabel(name, this);
        label->setBuddy(field);
        left->addWidget(label);
        left->addWidget(field, stretch);
    };
    add(tr("&Engine"), engine_, 0);
    add(tr("&Name"), title_, 0);
    add(tr("&Story"), story_, 2);
    add(tr("What is &wrong with it"), errors_, 3);
    auto* right = new QVBoxLayout;
    right->addWidget(drawing_, 1);
    auto* hint = new PlainLabel(tr("Pull a mark up or down; the ends of a deck lean it, between them it gets a low "
                                   "place. By keys: left and right, then up and down, with Shift further."),
                                this);
    hint->setWordWrap(true);
    set_type(hint, Type::small);
    right->addWidget(hint);
    auto* both = new QHBoxLayout;
    both->setSpacing(16);
    both->addLayout(left, 2);
    both->addLayout(right, 3);
    save_->setText(tr("Sa&ve as…"));
    begin_->setText(tr("&Begin it"));
    begin_->setDefault(true);
    save_->setObjectName(QStringLiteral("exercise-save"));
    begin_->setObjectName(QStringLiteral("exercise-begin"));
    auto* close = new QPushButton(tr("Close"), this);
    auto* end = new QHBoxLayout;
    end->addWidget(told_, 1);
    for (QPushButton* button : {begin_, save_, close})
        end->addWidget(button);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 20, 20, 14);
    column->setSpacing(12);
    column->addLayout(both, 1);
    column->addLayout(end);
    connect(engine_, &QComboBox::currentIndexChanged, this, &ExerciseDialog::show_typed);
    connect(title_, &QLineEdit::textChanged, this, &ExerciseDialog::show_typed);
    connect(errors_, &QPlainTextEdit::textChanged, this, &ExerciseDialog::show_typed);
    connect(drawing_, &ExerciseDrawing::pulled, this, [this](std::size_t shape, std::size_t part, double length) {
        if (!exercise_)
            return;
        QStringList lines;
        for (const std::string& line : workshop::with_error(
                 typed().errors, workshop::pulled(exercise_->blueprint, drawing_->sound(), shape, part, length)))
            lines << qt(line);
        errors_->setPlainText(lines.join(QLatin1Char('\n')));
    });
    connect(save_, &QPushButton::clicked, this, &ExerciseDialog::save);
    connect(begin_, &QPushButton::clicked, this, &ExerciseDialog::begin);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    fill_engines();
    show_typed();
    title_->setFocus();
}

/// The engine of the open job first, then the shelf.
void ExerciseDialog::fill_engines() {
    const QSignalBlocker quiet(engine_);
    if (context_.session.has_job())
        if (const auto* opened = std::get_if<block::JobOpened>(&context_.session.entries().front().payload))
            engine_->addItem(tr("the engine of this job"), qt(opened->blueprint));
    const auto shelf = context_.session.book().engines();
    const auto rows = shelf.rows();
    if (!rows)
        return;
    for (const storage::ShelfRow& row : *rows)
        if (const auto engine = shelf.engine(row.name); engine && !row.retired)
            if (const auto drawn = block::draw(engine->recipe, engine->name()))
                engine_->addItem(row.name, qt(drawn->source));
}

workshop::OwnExercise ExerciseDialog::typed() const {
    workshop::OwnExercise own;
    own.title = title_->text().trimmed().toStdString();
    own.story = story_->toPlainText().trimmed().toStdString();
    for (const QString& line : errors_->toPlainText().split(QLatin1Char('\n')))
        own.errors.push_back(line.trimmed().toStdString());
    while (!own.errors.empty() && own.errors.back().empty())
        own.errors.pop_back();
    own.scope = workshop::stages_of(own.errors);
    own.blueprint = engine_->currentData().toString().toStdString();
    return own;
}

/// What is typed so far, drawn; what cannot be read is said, and what was drawn before stays.
void ExerciseDialog::show_typed() {
    workshop::OwnExercise own = typed();
    const bool named = !own.title.empty();
    if (!named)
        own.title = "an exercise";
    auto read = workshop::exercise_of(own);
    for (QPushButton* button : {save_, begin_})
        button->setEnabled(read && named);
    if (!read)
        return tell(read.error());
    exercise_ = std::move(*read);
    drawing_->show_exercise(*exercise_);
    QStringList asked;
    for (const block::Stage stage : own.scope)
        asked << qt(wording::stage_name(stage));
    told_->setText(named ? tr("Asked for: %1, by what is wrong.").arg(asked.join(QStringLiteral(", ")))
                         : tr("It has no name yet."));
}

void ExerciseDialog::tell(const block::Faults& faults) {
    const block::Fault& first = faults.front();
    told_->setText(first.line > 0
                       ? tr("Line %1: %2; expected %3.").arg(first.line).arg(qt(first.what), qt(first.expected))
                       : qt(first.text()));
}

void ExerciseDialog::save() {
    const QString file = QFileDialog::getSaveFileName(
        this, tr("Save the exercise"), file_name_of(title_->text().trimmed()) + QStringLiteral(".pallix-exercise.json"),
        tr("Pallix exercises (*.pallix-exercise.json)"));
    if (file.isEmpty())
        return;
    const auto saved = reporting::save_bytes(QByteArray::fromStdString(workshop::own_exercise_json(typed())), file);
    told_->setText(saved ? tr("Saved: %1. Dropped on the window it begins.").arg(file) : saved.error());
}

void ExerciseDialog::begin() {
    const auto exercise = workshop::exercise_of(typed());
    if (!exercise)
        return tell(exercise.error());
    wanted_ = *exercise;
    accept();
}

} // namespace pallix::ui
