// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/step_list.h"

#include "planning/common/assessment.h"
#include "planning/steps/any_time.h"
#include "planning/steps/work_sheet.h"
#include "wording/common/sentences.h"
#include "wording/steps/step_words.h"

#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

using planning::Step;
using planning::StepState;

StepListPopup::StepListPopup(Context context, const std::optional<block::FeatureId>& about, planning::Stage stage,
                             QWidget* parent)
    : QFrame(parent, Qt::Popup), context_(context), field_(new QLineEdit(this)), list_(new QListWidget(this)) {
    setObjectName(QStringLiteral("other-steps"));
    setAttribute(Qt::WA_DeleteOnClose);
    field_->setObjectName(QStringLiteral("step-filter"));
    field_->setAccessibleName(tr("part of the step's name"));
    field_->setPlaceholderText(tr("type part of its name"));
    list_->setObjectName(QStringLiteral("step-list"));
    list_->setAccessibleName(tr("what could be done"));
    for (QWidget* w : std::initializer_list<QWidget*>{field_, list_})
        set_type(w, Type::text);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(8, 8, 8, 8);
    column->addWidget(field_);
    column->addWidget(list_, 1);
    field_->installEventFilter(this);
    connect(field_, &QLineEdit::textChanged, this, &StepListPopup::filter);
    connect(list_, &QListWidget::itemActivated, this, &StepListPopup::pick);
    connect(list_, &QListWidget::itemClicked, this, &StepListPopup::pick);

    const auto& state = context_.session.state();
    const auto& a = context_.session.assessment();
    const auto add = [&](const Step& s, const QString& more) {
        auto* item = new QListWidgetItem(qt(wording::step_headline(state, s, context_.lengths())) + more, list_);
        item->setData(Qt::UserRole, qt(s.id));
    };
    std::vector<const Step*> ready;
    for (const Step& s : a.steps.steps)
        if (s.state == StepState::now || s.state == StepState::ready)
            ready.push_back(&s);
    const auto distance = [&](const Step* s) {
        const Step* now = a.steps.now();
        return s->state == StepState::now                   ? 0
               : about && s->about == about                 ? 1
               : now && planning::in_one_clamping(*now, *s) ? 2 // without moving the block
               : s->stage == stage                          ? 3
                                                            : 4;
    };
    std::ranges::stable_sort(ready, {}, distance);
    for (const Step* s : ready)
        add(*s, s->state == StepState::now ? tr(" — called for") : QString());
    std::vector<std::optional<block::FeatureId>> things{about, std::nullopt};
    if (about && about->kind == block::FeatureKind::bore) // its deck is at hand too
        things.insert(things.begin() + 1, block::FeatureId{block::FeatureKind::deck, about->bank, 0});
    if (!about)
        things.erase(things.begin());
    for (const auto& thing : things)
        for (const Step& s : planning::any_time_steps(state, thing))
            if (s.state == StepState::ready)
                add(s, tr(" — at any time"));
    for (const Step& s : a.steps.steps)
        if (s.state == StepState::waits)
            add(s, tr(" — waits"));
    list_->setCurrentRow(0);
}

void StepListPopup::open_under(QWidget* button) {
    resize(scaled(440), scaled(420));
    const QPoint corner = button->mapToGlobal(QPoint(button->width() - width(), button->height() + 4));
    move(corner);
    show();
    field_->setFocus();
}

void StepListPopup::filter(const QString& text) {
    int first = -1;
    for (int i = 0; i < list_->count(); ++i) {
        const bool matches = list_->item(i)->text().contains(text.trimmed(), Qt::CaseInsensitive);
        list_->item(i)->setHidden(!matches);
        if (matches && first < 0)
            first = i;
    }
    list_->setCurrentRow(first);
}

void StepListPopup::pick() {
    const QListWidgetItem* item = list_->currentItem();
    if (!item || item->isHidden())
        return;
    const QString id = item->data(Qt::UserRole).toString();
    close();
    Q_EMIT picked(id);
}

bool StepListPopup::eventFilter(QObject* watched, QEvent* event) {
    if (watched != field_ || event->type() != QEvent::KeyPress)
        return QFrame::eventFilter(watched, event);
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Return || key == Qt::Key_Enter) {
        pick();
        return true;
    }
    if (key == Qt::Key_Down || key == Qt::Key_Up) {
        const int way = key == Qt::Key_Down ? 1 : -1;
        for (int row = list_->currentRow() + way; row >= 0 && row < list_->count(); row += way)
            if (!list_->item(row)->isHidden()) {
                list_->setCurrentRow(row);
                break;
            }
        return true;
    }
    return QFrame::eventFilter(watched, event);
}

} // namespace pallix::ui
