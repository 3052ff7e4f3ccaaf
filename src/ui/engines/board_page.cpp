// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/engines/board_page.h"

#include "block/drawing/size_text.h"
#include "block/shorthand.h"
#include "ui/dialogs/ask.h"
#include "ui/frame/plain_label.h"
#include "ui/frame/spoken.h"
#include "wording/common/blueprint_words.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QPushButton>
#include <QTimer>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

using block::FigureSource;
using planning::Board;

namespace {

constexpr int longest_figure = 1000, field_wide = 190;

QStringList source_words() {
    return {QObject::tr("not said"), QObject::tr("maker's sheet"), QObject::tr("drawing"),
            QObject::tr("measured"), QObject::tr("the shop"),      QObject::tr("assumed, judges nothing")};
}

} // namespace

BoardPage::BoardPage(Context context, QWidget* parent)
    : QWidget(parent), context_(context), drawing_(new BoardDrawing(context, board_, this)),
      field_(new QLineEdit(drawing_)), words_(new PlainLabel(this)), asked_(new PlainLabel(this)),
      right_(new QPushButton(tr("It is &right, because…"), this)), from_(new QComboBox(this)) {
    field_->setObjectName(QStringLiteral("board-figure"));
    field_->setMaxLength(longest_figure);
    field_->hide();
    field_->installEventFilter(this);
    drawing_->installEventFilter(this);
    words_->setObjectName(QStringLiteral("board-words"));
    asked_->setObjectName(QStringLiteral("board-question"));
    right_->setObjectName(QStringLiteral("board-right"));
    from_->setObjectName(QStringLiteral("board-source"));
    from_->setAccessibleName(tr("where the figures come from that are typed now"));
    from_->setToolTip(
        tr("Where the figures come from that are typed from here on (Alt+1 to Alt+5 for the one at hand)"));
    from_->addItems(source_words());
    from_->setCurrentIndex(static_cast<int>(FigureSource::sheet));
    from_->setFocusPolicy(Qt::ClickFocus);
    for (QLabel* label : {words_, asked_}) {
        label->setWordWrap(true);
        set_type(label, Type::text);
    }
    set_announced(words_);
    auto* line = new QHBoxLayout;
    line->addWidget(words_, 1);
    auto* typed_from = new PlainLabel(tr("figures from"), this);
    set_type(typed_from, Type::small);
    line->addWidget(typed_from);
    line->addWidget(from_);
    auto* question = new QHBoxLayout;
    question->addWidget(asked_, 1);
    question->addWidget(right_);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(drawing_, 1);
    column->addLayout(line);
    column->addLayout(question);
    setFocusProxy(drawing_);
    connect(drawing_, &BoardDrawing::figure_chosen, this, [this](const QString& key) { edit(key.toStdString()); });
    connect(drawing_, &Drawing::pointed_at, this, [this](const block::FeatureId& id) {
        drawing_->mark(id);
        refresh();
    });
    connect(drawing_, &Drawing::entered, this, [this] {
        if (drawing_->marked())
            edit(Board::keys_of(*drawing_->marked()).front());
    });
    connect(right_, &QPushButton::clicked, this, [this] { answer_question(); });
}

void BoardPage::show(block::Engine engine) {
    board_ = Board(std::move(engine));
    close_field();
    drawing_->mark(std::nullopt);
    drawing_->set_current({});
    say({});
    refresh();
}

void BoardPage::replace(block::Engine engine, const QString& words) {
    board_.replace(std::move(engine));
    close_field();
    keep_draft();
    say(words);
    refresh();
}

void BoardPage::show_sheet(BoardDrawing::Sheet sheet) {
    close_field();
    drawing_->show_sheet(sheet);
    drawing_->setFocus();
}

void BoardPage::refresh() {
    drawing_->refresh();
    show_words();
    if (!field_->isHidden())
        place_field();
    Q_EMIT changed();
}

void BoardPage::undo() {
    close_field();
    say(board_.undo() ? tr("Taken back.") : tr("There is nothing to take back."));
    keep_draft();
    refresh();
}

void BoardPage::redo() {
    close_field();
    say(board_.redo() ? tr("Done again.") : tr("There is nothing to do again."));
    keep_draft();
    refresh();
}

void BoardPage::set_origin(FigureSource source) {
    if (!field_->isHidden() && !take_typed())
        return;
    if (const std::string key = drawing_->current(); !key.empty())
        board_.set_origin(key, {source, 0, {}});
    keep_draft();
    refresh();
}

void BoardPage::keep_draft() {
    context_.preferences.set_draft(qt(block::write_engine(board_.engine())));
}

void BoardPage::say(const QString& words, bool fault) {
    remark_ = words;
    remark_is_fault_ = fault;
    show_words();
}

/// "understood: 82 to 82.054 mm"; of what is not a size nothing is said.
QString BoardPage::understood(const std::string& key) const {
    const std::string typed = board_.typed(key);
    if (typed.empty() || !board_.wrong(key).empty() || Board::is_usual(key))
        return {};
    const auto& figures = block::recipe_figures();
    const auto figure = std::ranges::find(figures, key, [](const auto& f) { return std::string(f.key); });
    const bool size = figure != figures.end() ? figure->kind == block::RecipeKind::size
                                              : key.ends_with("/size") || key.ends_with("/height");
    const auto read = size ? block::read_size(typed, board_.engine().recipe.unit)
                           : tl::expected<block::Tolerance, std::string>(tl::unexpected(std::string()));
    if (!read)
        return {};
    const auto l = context_.lengths();
    return read->whole()
               ? tr(" · understood: %1 to %2").arg(qt(l.plain(*read->smallest())), qt(l.with_unit(*read->largest())))
               : tr(" · understood: %1, without limits").arg(qt(l.with_unit(read->nominal)));
}

void BoardPage::show_words() {
    const std::string& key = drawing_->current();
    QString words = remark_;
    bool fault = remark_is_fault_;
    if (words.isEmpty() && !key.empty()) {
        words = qt(Board::words_of(key));
        if (const auto choices = Board::choices_of(key); !choices.empty()) {
            QStringList all;
            for (std::string c : choices) {
                std::ranges::replace(c, '_', ' ');
                all << qt(c);
            }
            words += tr(": %1").arg(all.join(QStringLiteral(", ")));
        }
        words += understood(key);
        const auto origin = board_.origin(key);
        if (origin.source != FigureSource::unstated) {
            words += tr(" · from: %1").arg(source_words()[static_cast<int>(origin.source)]);
            if (origin.blocks > 0)
                words += tr(" on %1").arg(origin.blocks == 1 ? tr("one block") : tr("%1 blocks").arg(origin.blocks));
            if (origin.spread)
                words += tr(", ±%1").arg(qt(context_.lengths().fine(*origin.spread)));
        }
        if (const std::string wrong = board_.wrong(key); !wrong.empty()) {
            words = qt(wrong);
            fault = true;
        }
    }
    if (words.isEmpty())
        words = board_.whole() ? tr("All there must be is there. Ctrl+S keeps it on the shelf.")
                               : tr("Tab goes to the next figure that is missing; numbers without a unit are %1.")
                                     .arg(board_.engine().recipe.unit == block::Unit::mm ? tr("mm") : tr("inch"));
    words_->setText(words);
    words_->setProperty("verdict", fault ? QStringLiteral("fails") : QString());
    QPalette colours = words_->palette();
    colours.setColor(QPalette::WindowText, fault ? context_.palette().fails : context_.palette().quiet);
    words_->setPalette(colours);
    const auto first = std::ranges::find_if(board_.questions(), [](const auto& q) { return q.why.empty(); });
    const bool open = first != board_.questions().end();
    asked_->setVisible(open);
    right_->setVisible(open);
    if (open) {
        const auto more = board_.open_questions() - 1;
        asked_->setText(qt(wording::doubt_words(board_.sketch().blueprint, first->doubt, context_.lengths())) +
                        (more > 0 ? tr(" And %1 more.").arg(more) : QString()));
    }
}

bool BoardPage::answer_question() {
    const auto first = std::ranges::find_if(board_.questions(), [](const auto& q) { return q.why.empty(); });
    if (first == board_.questions().end())
        return false;
    const std::string id = first->id;
    const auto why =
        ask_for_text(this, tr("It is right"),
                     qt(wording::doubt_words(board_.sketch().blueprint, first->doubt, context_.lengths())) +
                         tr("\n\nWhy it is right:"));
    if (!why || why->trimmed().isEmpty())
        return false;
    board_.answer(id, why->toStdString());
    keep_draft();
    refresh();
    return true;
}

void BoardPage::edit(const std::string& key) {
    if (!field_->isHidden() && drawing_->current() != key && !take_typed())
        return;
    const bool parts = Board::is_usual(key);
    if (parts != (drawing_->sheet() == BoardDrawing::Sheet::parts))
        Q_EMIT sheet_wanted(parts ? 1 : 0);
    drawing_->set_current(key);
    drawing_->refresh();
    say({});
    field_->setAccessibleName(qt(Board::words_of(key)));
    set_type(field_, Type::number);
    std::string typed = board_.typed(key);
    if (!Board::choices_of(key).empty())
        std::ranges::replace(typed, '_', ' ');
    field_->setText(qt(typed));
    field_->setPlaceholderText(qt(board_.drawn(key)));
    place_field();
    field_->show();
    field_->raise();
    field_->setFocus();
    field_->selectAll();
}

void BoardPage::edit_next_missing(bool forward) {
    edit(board_.next_missing(drawing_->current(), forward));
}

void BoardPage::place_field() {
    const QRectF where = drawing_->place_of(drawing_->current());
    const double wide = std::min<double>(scaled(field_wide), drawing_->width());
    QRectF box(where.center().x() - wide / 2, where.top() - 5, wide, where.height() + 10);
    if (drawing_->in_table(where)) // over its own name, which the line below says, not over its neighbour's
        box.moveRight(where.right());
    box.moveLeft(std::clamp(box.left(), 0.0, drawing_->width() - wide));
    box.moveTop(std::clamp(box.top(), 0.0, std::max(0.0, drawing_->height() - box.height())));
    field_->setGeometry(box.toRect());
}

void BoardPage::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    if (!field_->isHidden())
        place_field();
}

void BoardPage::close_field() {
    field_->hide();
    field_->clear();
}

/// Takes what is typed; of a choice its beginning is enough.
/// @return false where it is none of the choices: the field stays
bool BoardPage::take_typed() {
    const std::string key = drawing_->current();
    std::string text = field_->text().trimmed().toStdString();
    if (const auto choices = Board::choices_of(key); !text.empty() && !choices.empty()) {
        const QString wanted = field_->text().trimmed().toLower().replace(QLatin1Char(' '), QLatin1Char('_'));
        const auto fits = [&](const std::string& c) { return qt(c).startsWith(wanted, Qt::CaseInsensitive); };
        const auto whole = std::ranges::find(choices, wanted.toStdString());
        const auto found = whole != choices.end() ? whole : std::ranges::find_if(choices, fits);
        if (found == choices.end()) {
            say(tr("“%1” is none of: %2")
                    .arg(field_->text(),
                         [&] {
                             QStringList all;
                             for (const std::string& c : choices)
                                 all << qt(c).replace(QLatin1Char('_'), QLatin1Char(' '));
                             return all.join(QStringLiteral(", "));
                         }()),
                true);
            field_->selectAll();
            return false;
        }
        text = *found;
    }
    board_.type(key, text, static_cast<FigureSource>(from_->currentIndex()));
    keep_draft();
    refresh();
    return true;
}

bool BoardPage::eventFilter(QObject* watched, QEvent* event) {
    if (watched == drawing_ && event->type() == QEvent::Resize && !field_->isHidden())
        QTimer::singleShot(0, this, [this] { place_field(); }); // once it is laid out anew
    if (event->type() != QEvent::KeyPress)
        return QWidget::eventFilter(watched, event);
    const auto* key = static_cast<QKeyEvent*>(event);
    const bool tab = key->key() == Qt::Key_Tab, back = key->key() == Qt::Key_Backtab;
    if (watched == field_) {
        const bool down = key->key() == Qt::Key_Down, up = key->key() == Qt::Key_Up;
        const bool enter = key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter;
        if (key->key() == Qt::Key_Escape) {
            close_field();
            drawing_->setFocus();
            say({});
            return true;
        }
        if ((tab || back || enter || down || up) && key->modifiers() != Qt::ControlModifier) {
            if (take_typed()) {
                if (!board_.wrong(drawing_->current()).empty()) { // it stays where it cannot be read
                    field_->selectAll();
                    return true;
                }
                tab || back ? edit_next_missing(tab) : edit(board_.next(drawing_->current(), !up));
            }
            return true;
        }
    } else if (watched == drawing_) {
        if (tab || back) {
            edit_next_missing(tab);
            return true;
        }
        if (key->key() == Qt::Key_B && key->modifiers() == Qt::NoModifier) {
            drawing_->show_other_bank();
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace pallix::ui
