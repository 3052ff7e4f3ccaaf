// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/feature.h"
#include "ui/context.h"
#include "ui/frame/spoken.h"

#include <optional>

class QPainter;

namespace pallix::ui {

/// What every drawing of the bench has in common: the context it is painted in, a panel to stand on, and things that
/// can be marked: by pointing, by the arrow keys in the order of the block, and heard by whoever does not look.
class Drawing : public Spoken {
    Q_OBJECT
  public:
    /// @param name for tests and style; @param spoken what a screen reader calls it
    Drawing(Context context, const QString& name, const QString& spoken, QWidget* parent = nullptr);

    void mark(const std::optional<block::FeatureId>& id);
    virtual void refresh() { update(); } ///< the job is another, or what is marked
    [[nodiscard]] const std::optional<block::FeatureId>& marked() const { return marked_; }
    [[nodiscard]] std::vector<SpokenPart> spoken() const override;
    void press(std::size_t part) override;

  Q_SIGNALS:
    void pointed_at(const pallix::block::FeatureId& id);
    void entered(); ///< Enter on what is marked: its answer is wanted

  protected:
    /// Something of the block that is drawn.
    struct Thing {
        block::FeatureId id;
        QRectF where;
        QString name, value; ///< as they are heard
    };
    /// In the order of the block; none in a drawing where nothing is marked.
    [[nodiscard]] virtual std::vector<Thing> things() const { return {}; }

    /// What stands there, or so near that a hand may have meant it.
    [[nodiscard]] std::optional<block::FeatureId> thing_at(QPointF place) const;

    /// A painter's page: rounded panel, antialiasing on, the text size of drawings.
    void prepare(QPainter& painter) const;
    void paint_focus(QPainter& painter) const; ///< the frame round a drawing that has the keys
    /// Words in the middle of a drawing that has nothing to draw yet.
    void paint_empty(QPainter& painter, const QString& words) const;
    /// Words in the largest type up to this one in which they fit the width, so that no number is ever cut.
    void write(QPainter& painter, const QRectF& box, int flags, const QString& words, Type type,
               bool bold = false) const;
    /// A panel of its own for one thing; strong where it is marked.
    void paint_frame(QPainter& painter, const QRectF& box, bool strong) const;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

    Context context_;

  private:
    std::optional<block::FeatureId> marked_;
};

} // namespace pallix::ui
