// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/figure_line.h"

#include "block/field_at.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "ui/frame/plain_label.h"

#include <QKeyEvent>
#include <QLineEdit>
#include <QMenu>
#include <QPainter>
#include <QTextLayout>
#include <algorithm>
#include <cmath>

namespace pallix::ui {
namespace {

constexpr int remark_height = 22, longest_figure = 200;

} // namespace

FigureLine::FigureLine(Context context, wording::FiguresOf what, QWidget* parent)
    : Spoken(parent), context_(context), what_(what), layout_(std::make_unique<QTextLayout>()),
      field_(new QLineEdit(this)) {
    setObjectName(QStringLiteral("figures"));
    setAccessibleName(tr("figures that the plan stands on"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Minimum);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
    field_->setObjectName(QStringLiteral("figure"));
    field_->setMaxLength(longest_figure);
    field_->hide();
    field_->installEventFilter(this);
}

FigureLine::~FigureLine() = default;

void FigureLine::refresh(const std::optional<block::FeatureId>& marked) {
    if (marked != marked_) {
        draft_.reset();
        close_field();
    }
    marked_ = marked;
    if (context_.session.has_job())
        sentence_ = wording::figure_sentence(what_, context_.session.state(), context_.session.assessment(), marked_,
                                             context_.lengths());
    else
        sentence_.clear();
    if (draft_)
        for (wording::SentencePart& part : sentence_)
            if (const auto slash = part.figure.find('/'); slash != std::string::npos)
                if (const auto value = block::field_at(*draft_, part.figure.substr(slash + 1));
                    value && value->kind == block::FieldKind::number && value->number && *value->number > 0) {
                    part.words = context_.lengths().plain(*value->number);
                    part.gap = false;
                }
    lay_out();
    updateGeometry();
    update();
}

QString FigureLine::text() const {
    return qt(wording::plain_words(sentence_));
}

QString FigureLine::remark() const {
    return remark_;
}

double FigureLine::lay_out(QTextLayout& layout, double width) const {
    layout.setText(text());
    layout.setFont(font_of(Type::number));
    QList<QTextLayout::FormatRange> formats;
    int start = 0;
    for (const wording::SentencePart& part : sentence_) {
        const int length = static_cast<int>(qt(part.words).size());
        if (!part.figure.empty()) {
            QTextLayout::FormatRange range{start, length, {}};
            range.format.setForeground(part.gap ? context_.palette().cannot_tell : context_.palette().accent);
            range.format.setFontWeight(QFont::Bold);
            range.format.setUnderlineStyle(part.gap ? QTextCharFormat::NoUnderline : QTextCharFormat::SingleUnderline);
            formats.append(range);
        }
        start += length;
    }
    layout.setFormats(formats);
    double y = 2;
    layout.beginLayout();
    for (QTextLine line = layout.createLine(); line.isValid(); line = layout.createLine()) {
        line.setLineWidth(width);
        line.setPosition({0, y});
        y += line.height() + 3;
    }
    layout.endLayout();
    return y;
}

void FigureLine::lay_out() {
    lay_out(*layout_, width());
    places_.clear();
    int start = 0;
    for (std::size_t i = 0; i < sentence_.size(); ++i) {
        const int length = static_cast<int>(qt(sentence_[i].words).size());
        if (!sentence_[i].figure.empty()) {
            const QTextLine line = layout_->lineForTextPosition(start);
            if (line.isValid()) {
                const double left = line.cursorToX(start);
                const int last = std::min(start + length, line.textStart() + line.textLength());
                places_.push_back({i, QRectF(left, line.y(), line.cursorToX(last) - left, line.height())});
            }
        }
        start += length;
    }
    at_ = std::min(at_, places_.empty() ? 0 : places_.size() - 1);
}

QSize FigureLine::sizeHint() const {
    return {400, heightForWidth(std::max(200, width()))};
}

int FigureLine::heightForWidth(int width) const {
    QTextLayout layout;
    return static_cast<int>(std::ceil(lay_out(layout, width))) + scaled(remark_height);
}

std::vector<SpokenPart> FigureLine::spoken() const {
    std::vector<SpokenPart> parts;
    for (std::size_t i = 0; i < places_.size(); ++i) {
        const wording::SentencePart& part = sentence_[places_[i].part];
        parts.push_back(
            {qt(part.name), part.gap ? tr("not stated") : qt(part.words), places_[i].where.toAlignedRect(), i == at_});
    }
    return parts;
}

void FigureLine::press(std::size_t part) {
    if (part < places_.size())
        begin(part);
}

void FigureLine::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setPen(context_.palette().ink);
    layout_->draw(&painter, {0, 0});
    if (hasFocus() && at_ < places_.size()) {
        painter.setPen(QPen(context_.palette().accent, 2));
        painter.drawRoundedRect(places_[at_].where.adjusted(-3, -1, 3, 2), 4, 4);
    }
    painter.setFont(font_of(Type::small));
    painter.setPen(remark_is_fault_ ? context_.palette().fails : context_.palette().quiet);
    const QString hint = tr("What is underlined is changed where it stands: click it, or Tab and Enter.");
    painter.drawText(QRect(0, height() - scaled(remark_height), width(), scaled(remark_height)),
                     Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap, remark_.isEmpty() ? hint : remark_);
}

void FigureLine::resizeEvent(QResizeEvent*) {
    lay_out();
    if (!field_->isHidden())
        place_field();
}

/// Over the figure that is being changed.
void FigureLine::place_field() {
    if (at_ >= places_.size())
        return;
    const QRectF where = places_[at_].where;
    const double wide = std::clamp(where.width() + 40, scaled(110) * 1.0, std::max(1.0, width() * 1.0));
    field_->setGeometry(QRectF(std::clamp(where.left() - 10, 0.0, std::max(0.0, width() - wide)),
                               std::max(0.0, where.top() - 6), wide, where.height() + 12)
                            .toRect());
}

void FigureLine::changeEvent(QEvent* event) {
    Spoken::changeEvent(event);
    if (event->type() == QEvent::StyleChange) {
        lay_out();
        updateGeometry();
    }
}

void FigureLine::mousePressEvent(QMouseEvent* event) {
    for (std::size_t i = 0; i < places_.size(); ++i)
        if (places_[i].where.adjusted(-3, -3, 3, 3).contains(event->position()))
            return begin(i);
}

void FigureLine::mouseMoveEvent(QMouseEvent* event) {
    const auto under =
        std::ranges::find_if(places_, [&](const Place& p) { return p.where.contains(event->position()); });
    setCursor(under == places_.end() ? Qt::ArrowCursor : Qt::PointingHandCursor);
    setToolTip(under == places_.end() ? QString() : plain_tip(qt(sentence_[under->part].name)));
}

void FigureLine::keyPressEvent(QKeyEvent* event) {
    const auto step = [&](bool forward) {
        if (!places_.empty())
            at_ = (at_ + (forward ? 1 : places_.size() - 1)) % places_.size();
        update();
        say_changed();
    };
    if (event->key() == Qt::Key_Right || event->key() == Qt::Key_Down)
        return step(true);
    if (event->key() == Qt::Key_Left || event->key() == Qt::Key_Up)
        return step(false);
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter || event->key() == Qt::Key_Space)
        return begin(at_);
    // A digit begins anew what stands there.
    if (const QString typed = event->text(); !typed.isEmpty() && typed[0].isPrint() &&
                                             event->modifiers() == Qt::NoModifier &&
                                             (typed[0].isDigit() || typed[0] == QLatin1Char('-') ||
                                              typed[0] == QLatin1Char('+') || typed[0] == QLatin1Char('.'))) {
        begin(at_);
        if (!field_->isHidden())
            field_->setText(typed);
        return;
    }
    Spoken::keyPressEvent(event);
}

void FigureLine::focusInEvent(QFocusEvent* event) {
    if (event->reason() == Qt::TabFocusReason)
        at_ = 0;
    if (event->reason() == Qt::BacktabFocusReason && !places_.empty())
        at_ = places_.size() - 1;
    update();
    say_changed();
}

void FigureLine::focusOutEvent(QFocusEvent*) {
    update();
}

/// Tab goes from figure to figure before it leaves the sentence.
bool FigureLine::focusNextPrevChild(bool next) {
    const bool more = hasFocus() && (next ? at_ + 1 < places_.size() : at_ > 0);
    if (!more)
        return Spoken::focusNextPrevChild(next);
    at_ += next ? 1 : std::size_t(-1);
    update();
    say_changed();
    return true;
}

bool FigureLine::eventFilter(QObject* watched, QEvent* event) {
    if (watched == field_ && event->type() == QEvent::FocusOut && !field_->isHidden() && field_->text().isEmpty())
        close_field();
    if (watched == field_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Return || key == Qt::Key_Enter) { // it stops here: the sentence would begin anew
            take_typed();
            return true;
        }
        if (key == Qt::Key_Escape) {
            close_field();
            setFocus();
            return true;
        }
    }
    return Spoken::eventFilter(watched, event);
}

std::optional<planning::Figure> FigureLine::figure(std::size_t place) const {
    return place < places_.size()
               ? planning::figure_at(context_.session.state(), sentence_[places_[place].part].figure, marked_)
               : std::nullopt;
}

bool FigureLine::has(const QString& address) const {
    return std::ranges::any_of(sentence_, [&](const auto& part) { return qt(part.figure) == address; });
}

void FigureLine::edit(const QString& address) {
    for (std::size_t i = 0; i < places_.size(); ++i)
        if (qt(sentence_[places_[i].part].figure) == address)
            return begin(i);
}

void FigureLine::begin(std::size_t place) {
    const auto chosen = figure(place);
    if (!chosen)
        return;
    at_ = place;
    say({}, false);
    questioned_.clear();
    if (!wording::figure_choices(*chosen).empty())
        return offer_choices(place, *chosen);
    const wording::SentencePart& part = sentence_[places_[place].part];
    address_ = part.figure;
    field_->setAccessibleName(qt(part.name));
    set_type(field_, Type::number);
    field_->setText(part.gap ? QString() : qt(part.words));
    place_field();
    field_->show();
    field_->raise();
    field_->setFocus();
    field_->selectAll();
    say(tr("%1: Enter keeps it, Escape leaves it").arg(qt(part.name)), false);
}

void FigureLine::offer_choices(std::size_t place, const planning::Figure& figure) {
    setFocus();
    QMenu menu(this);
    menu.setObjectName(QStringLiteral("figure-choices"));
    menu.setAccessibleName(qt(sentence_[places_[place].part].name));
    const auto words = wording::figure_choices(figure);
    for (std::size_t i = 0; i < words.size(); ++i) {
        QAction* action = menu.addAction(qt(words[i]));
        action->setData(static_cast<int>(i));
        action->setCheckable(true);
        action->setChecked(figure.value.number && static_cast<std::size_t>(*figure.value.number) == i);
        if (action->isChecked())
            menu.setActiveAction(action);
    }
    const QAction* chosen = menu.exec(mapToGlobal(places_[place].where.bottomLeft().toPoint()));
    if (!chosen)
        return;
    const auto choice = static_cast<std::size_t>(chosen->data().toInt());
    if (draft_) {
        block::FieldValue value = figure.value;
        value.number = static_cast<double>(choice);
        return take(block::with_field(*draft_, figure.address.substr(figure.address.find('/') + 1), value));
    }
    take(planning::choose_figure(context_.session.state(), figure.address, marked_, choice));
}

void FigureLine::take_typed() {
    const QString typed = field_->text().trimmed();
    const bool sure = !questioned_.isEmpty() && typed == questioned_;
    questioned_ = typed;
    take(planning::set_figure(context_.session.state(), address_, marked_, typed.toStdString(),
                              context_.preferences.unit(), sure, draft_ ? &*draft_ : nullptr));
}

/// Takes the entry in; one that lacks other figures still is kept here until they are given.
void FigureLine::take(const block::Result<block::Payload>& made) {
    if (!made)
        return say(qt(made.error().front().text()), true);
    if (const auto lacking = planning::still_lacking(*made); !lacking.empty()) {
        draft_ = *made;
        close_field();
        setFocus();
        refresh(marked_);
        QStringList list;
        for (const std::string& field : lacking)
            for (const wording::SentencePart& part : sentence_)
                if (part.figure.ends_with('/' + field))
                    list << qt(part.name);
        return say(tr("Still needed: %1.").arg(list.join(QStringLiteral("; "))), false);
    }
    const bool had_keys = hasFocus() || field_->hasFocus();
    if (const auto taken = context_.session.take(*made); !taken)
        return say(qt(taken.error().front().text()), true);
    draft_.reset();
    close_field();
    if (had_keys)
        setFocus();
    say(tr("Kept."), false);
    refresh(marked_);
}

void FigureLine::close_field() {
    field_->hide();
    field_->clear();
    questioned_.clear();
}

void FigureLine::say(const QString& words, bool fault) {
    remark_ = words;
    remark_is_fault_ = fault;
    setAccessibleDescription(words);
    update();
}

} // namespace pallix::ui
