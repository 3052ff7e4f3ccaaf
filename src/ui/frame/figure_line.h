// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"
#include "ui/frame/spoken.h"
#include "wording/common/figure_sentences.h"

#include <optional>

class QLineEdit;
class QTextLayout;

namespace pallix::ui {

/// The sentence of figures under a drawing. What is underlined is changed where it stands: by a click, or Tab from
/// figure to figure and Enter; what cannot be read is said, what can hardly be meant is asked about.
class FigureLine : public Spoken {
    Q_OBJECT
  public:
    FigureLine(Context context, wording::FiguresOf what, QWidget* parent = nullptr);
    ~FigureLine() override;

    void speak_of(wording::FiguresOf what) { what_ = what; } ///< from the next `refresh` on
    /// Follows the job. @param marked the bore that is spoken of
    void refresh(const std::optional<block::FeatureId>& marked = {});
    /// Begins to change a figure. @param address as "pistons/clearance_mm"
    void edit(const QString& address);
    [[nodiscard]] bool has(const QString& address) const;
    [[nodiscard]] QString text() const;   ///< the sentence in plain words
    [[nodiscard]] QString remark() const; ///< what was wrong or asked about last
    [[nodiscard]] std::vector<SpokenPart> spoken() const override;
    void press(std::size_t part) override;
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] int heightForWidth(int width) const override;

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void changeEvent(QEvent* event) override;
    bool focusNextPrevChild(bool next) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    struct Place {
        std::size_t part;
        QRectF where; ///< of its first line
    };
    void lay_out();
    double lay_out(QTextLayout& layout, double width) const;
    [[nodiscard]] std::optional<planning::Figure> figure(std::size_t place) const;
    void begin(std::size_t place);
    void offer_choices(std::size_t place, const planning::Figure& figure);
    void take_typed();
    void take(const block::Result<block::Payload>& made);
    void place_field();
    void close_field();
    void say(const QString& words, bool fault);

    Context context_;
    wording::FiguresOf what_;
    std::optional<block::FeatureId> marked_;
    wording::FigureSentence sentence_;
    std::unique_ptr<QTextLayout> layout_;
    std::vector<Place> places_;
    std::size_t at_ = 0;                  ///< the figure that has the keys
    QLineEdit* field_;                    ///< stands over the figure that is being changed
    std::string address_;                 ///< of that figure
    QString questioned_;                  ///< what was typed and asked about
    std::optional<block::Payload> draft_; ///< an entry that still lacks figures
    QString remark_;
    bool remark_is_fault_ = false;
};

} // namespace pallix::ui
