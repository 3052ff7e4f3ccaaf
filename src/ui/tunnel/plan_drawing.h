// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/drawing.h"
#include "ui/marks.h"

#include <QWidget>
#include <memory>
#include <optional>
#include <vector>

namespace pallix::ui {

/// The tunnel plan in sections: the old surface larger than life, the cap where the cut brings it, the finished circle,
/// metal to come off between them; below, the line from front to rear. A cap or the line can be dragged: what gets
/// short shows at once.
class PlanDrawing : public Drawing {
    Q_OBJECT
  public:
    explicit PlanDrawing(Context context, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 250}; }

    /// @param study what is shown; nothing where the tunnel is not known
    void show_study(std::shared_ptr<const planning::TunnelStudy> study);
    /// What the person has dragged it to; the plan itself until then.
    [[nodiscard]] bool is_changed() const { return changed_; }
    void back_to_plan();
    [[nodiscard]] const std::vector<double>& cuts() const { return cuts_; }
    [[nodiscard]] const planning::CentreLine& line() const { return line_; }
    /// The tightest place with cuts and line as they stand: mm, < 0 is short.
    struct Tightest {
        double slack = 0;
        planning::BindingPoint at;
    };
    [[nodiscard]] std::optional<Tightest> tightest() const;

  Q_SIGNALS:
    void dragged();                                 ///< cuts or line
    void cap_clicked(const block::FeatureId& main); ///< twice: replaced or not

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    [[nodiscard]] QPointF section_middle(std::size_t main) const;
    [[nodiscard]] double section_radius() const;
    [[nodiscard]] double line_height() const;
    [[nodiscard]] double slack_of(const planning::Housing& housing, metrology::Vec3 p, double cut) const;
    void find_scale();
    void paint_section(QPainter& painter, std::size_t main);
    void paint_metal_off(QPainter& painter, std::size_t main);
    void paint_line(QPainter& painter);
    void paint_middles(QPainter& painter);
    [[nodiscard]] double on_strip(double z) const;
    [[nodiscard]] double strip_factor() const;
    void follow_caps();
    [[nodiscard]] QPointF line_handle(bool rear) const;
    void nudge(double um);

    std::shared_ptr<const planning::TunnelStudy> study_;
    std::vector<double> cuts_; ///< mm
    planning::CentreLine line_;
    bool changed_ = false;
    double factor_ = 1;      ///< px per mm, of what is drawn larger than life
    double strip_reach_ = 1; ///< mm, the largest height that the line's strip shows; kept while something is dragged
    std::size_t marked_ = 0; ///< of the keyboard
    enum class Grip { none, cap, front, rear } grip_ = Grip::none;
    std::size_t gripped_ = 0;
    double grip_y_ = 0, grip_value_ = 0;
};

} // namespace pallix::ui
