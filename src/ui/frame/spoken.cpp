// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/spoken.h"

#include <QAccessible>
#include <QAccessibleWidget>
#include <QLabel>
#include <QPointer>
#include <algorithm>

namespace pallix::ui {
namespace {

class PartInterface final : public QAccessibleInterface, public QAccessibleActionInterface {
  public:
    PartInterface(Spoken* widget, std::size_t index) : widget_(widget), index_(index) {}

    bool isValid() const override { return widget_ && index_ < widget_->spoken().size(); }
    QObject* object() const override { return nullptr; }
    QWindow* window() const override { return widget_ ? widget_->window()->windowHandle() : nullptr; }
    QAccessibleInterface* parent() const override { return QAccessible::queryAccessibleInterface(widget_); }
    QAccessibleInterface* child(int) const override { return nullptr; }
    QAccessibleInterface* childAt(int, int) const override { return nullptr; }
    int childCount() const override { return 0; }
    int indexOfChild(const QAccessibleInterface*) const override { return -1; }
    QAccessible::Role role() const override {
        return part().pressable ? QAccessible::PushButton : QAccessible::StaticText;
    }
    QString text(QAccessible::Text what) const override {
        if (what == QAccessible::Name) // the value too: most readers say nothing else of what is painted
            return part().value.isEmpty() ? part().name : part().name + QStringLiteral(", ") + part().value;
        return what == QAccessible::Value ? part().value : QString();
    }
    void setText(QAccessible::Text, const QString&) override {}
    QRect rect() const override {
        if (!isValid())
            return {};
        const QRect where = part().where;
        return {widget_->mapToGlobal(where.topLeft()), where.size()};
    }
    QAccessible::State state() const override {
        QAccessible::State s;
        s.invisible = !widget_ || !widget_->isVisible();
        s.selectable = true;
        s.selected = part().marked;
        s.focusable = true;
        s.focused = part().marked && widget_ && widget_->hasFocus();
        return s;
    }
    void* interface_cast(QAccessible::InterfaceType type) override {
        return type == QAccessible::ActionInterface ? static_cast<QAccessibleActionInterface*>(this) : nullptr;
    }
    QStringList actionNames() const override { return part().pressable ? QStringList{pressAction()} : QStringList(); }
    void doAction(const QString& action) override {
        if (action == pressAction() && isValid())
            widget_->press(index_);
    }
    QStringList keyBindingsForAction(const QString&) const override { return {}; }

  private:
    SpokenPart part() const { return isValid() ? widget_->spoken()[index_] : SpokenPart{}; }
    QPointer<Spoken> widget_;
    std::size_t index_;
};

class SpokenInterface final : public QAccessibleWidget {
  public:
    explicit SpokenInterface(Spoken* widget) : QAccessibleWidget(widget, QAccessible::Graphic) {}
    ~SpokenInterface() override {
        for (const QAccessible::Id id : parts_)
            QAccessible::deleteAccessibleInterface(id);
    }
    SpokenInterface(const SpokenInterface&) = delete;
    SpokenInterface& operator=(const SpokenInterface&) = delete;

    int childCount() const override { return QAccessibleWidget::childCount() + painted(); }
    QAccessibleInterface* child(int index) const override {
        const int own = QAccessibleWidget::childCount();
        if (index < own)
            return QAccessibleWidget::child(index);
        const int part = index - own;
        if (part >= painted())
            return nullptr;
        while (static_cast<int>(parts_.size()) <= part)
            parts_.push_back(QAccessible::registerAccessibleInterface(new PartInterface(spoken(), parts_.size())));
        return QAccessible::accessibleInterface(parts_[static_cast<std::size_t>(part)]);
    }
    int indexOfChild(const QAccessibleInterface* child) const override {
        for (std::size_t i = 0; i < parts_.size(); ++i)
            if (QAccessible::accessibleInterface(parts_[i]) == child)
                return QAccessibleWidget::childCount() + static_cast<int>(i);
        return QAccessibleWidget::indexOfChild(child);
    }
    QAccessibleInterface* childAt(int x, int y) const override {
        const QPoint at = widget()->mapFromGlobal(QPoint(x, y));
        const auto all = spoken()->spoken();
        for (std::size_t i = 0; i < all.size(); ++i)
            if (all[i].where.contains(at))
                return child(QAccessibleWidget::childCount() + static_cast<int>(i));
        return nullptr;
    }

  private:
    Spoken* spoken() const { return static_cast<Spoken*>(widget()); }
    int painted() const { return static_cast<int>(spoken()->spoken().size()); }
    mutable std::vector<QAccessible::Id> parts_;
};

constexpr const char* announced = "pallix-announced";

/// A reader says what is in a status bar when its name becomes another; QLabel itself tells of that.
class AnnouncedInterface final : public QAccessibleWidget {
  public:
    explicit AnnouncedInterface(QLabel* label) : QAccessibleWidget(label, QAccessible::StatusBar) {}
    QString text(QAccessible::Text what) const override {
        return what == QAccessible::Name ? static_cast<QLabel*>(widget())->text() : QAccessibleWidget::text(what);
    }
};

QAccessibleInterface* interface_for(const QString&, QObject* object) {
    if (auto* spoken = qobject_cast<Spoken*>(object))
        return new SpokenInterface(spoken);
    if (auto* label = qobject_cast<QLabel*>(object); label && label->property(announced).toBool())
        return new AnnouncedInterface(label);
    return nullptr;
}

} // namespace

void Spoken::say_changed() {
    if (!QAccessible::isActive())
        return;
    const auto all = spoken();
    const auto marked = std::ranges::find(all, true, &SpokenPart::marked);
    auto* self = QAccessible::queryAccessibleInterface(this);
    if (marked == all.end() || !self)
        return;
    const int index = self->childCount() - static_cast<int>(all.end() - marked);
    QAccessibleEvent event(self, hasFocus() ? QAccessible::Focus : QAccessible::Selection);
    event.setChild(index);
    QAccessible::updateAccessibility(&event);
}

void set_announced(QLabel* label) {
    label->setProperty(announced, true);
}

void install_spoken() {
    QAccessible::installFactory(interface_for);
}

} // namespace pallix::ui
