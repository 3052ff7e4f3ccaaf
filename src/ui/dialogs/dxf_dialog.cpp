// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/dxf_dialog.h"

#include "block/number_text.h"
#include "block/probe_log.h"
#include "ui/dialogs/fault_list.h"
#include "ui/files.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QProgressBar>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

using block::DxfRole;

DxfPicture::DxfPicture(Context context, QWidget* parent) : Spoken(parent), context_(context) {
    setObjectName(QStringLiteral("dxf-picture"));
    setAccessibleName(tr("the drawing; press a circle to say what circles of its size are"));
    setCursor(Qt::PointingHandCursor);
}

void DxfPicture::show_drawing(const block::DxfDrawing* drawing, const std::vector<block::DxfGroup>* groups,
                              const block::DxfPlacing& placing) {
    drawing_ = drawing;
    groups_ = groups;
    placing_ = placing;
    update();
    say_changed();
}

namespace {

QString role_words(DxfRole role) {
    switch (role) {
    case DxfRole::cylinders:
        return QObject::tr("cylinders");
    case DxfRole::dowels:
        return QObject::tr("dowels");
    case DxfRole::other:
        break;
    }
    return QObject::tr("passed over");
}

} // namespace

std::vector<SpokenPart> DxfPicture::spoken() const {
    std::vector<SpokenPart> parts;
    if (groups_)
        for (const block::DxfGroup& group : *groups_)
            parts.push_back({tr("%1 circles of %2").arg(group.circles.size()).arg(group.diameter, 0, 'g', 6),
                             role_words(group.role), rect(), false});
    return parts;
}

void DxfPicture::press(std::size_t part) {
    Q_EMIT group_pressed(static_cast<int>(part));
}

void DxfPicture::fit() {
    metrology::Vec2 low{1e300, 1e300}, high{-1e300, -1e300};
    const auto add = [&](metrology::Vec2 p, double r) {
        low = {std::min(low.x, p.x - r), std::min(low.y, p.y - r)};
        high = {std::max(high.x, p.x + r), std::max(high.y, p.y + r)};
    };
    for (const auto& circle : drawing_->circles)
        add(circle.centre, circle.radius);
    for (const auto& outline : drawing_->outlines)
        for (const metrology::Vec2 p : outline)
            add(p, 0);
    middle_ = 0.5 * (low + high);
    scale_ = std::min((width() - scaled(40)) / std::max(1e-9, high.x - low.x),
                      (height() - scaled(40)) / std::max(1e-9, high.y - low.y));
}

QPointF DxfPicture::at(metrology::Vec2 p) const {
    const double flip = placing_.mirrored ? -1 : 1;
    return {width() / 2.0 + scale_ * (p.x - middle_.x), height() / 2.0 - flip * scale_ * (p.y - middle_.y)};
}

/// Cylinders blue and thick, dowels filled, the rest thin; what was found of an outline behind them.
void DxfPicture::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    const Palette& p = context_.palette();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), p.panel);
    if (!drawing_ || (drawing_->circles.empty() && drawing_->outlines.empty()))
        return;
    fit();
    bool first = true;
    for (const auto& outline : drawing_->outlines) {
        QPolygonF run;
        for (const metrology::Vec2 corner : outline)
            run << at(corner);
        painter.setPen(QPen(p.deck.edge, first ? 2 : 1));
        painter.setBrush(first ? p.deck.bright : QBrush(Qt::NoBrush));
        painter.drawPolygon(run);
        first = false;
    }
    for (const block::DxfGroup& group : *groups_)
        for (const std::size_t i : group.circles) {
            const auto& circle = drawing_->circles[i];
            painter.setPen(
                QPen(group.role == DxfRole::other ? p.quiet : p.accent, group.role == DxfRole::cylinders ? 3 : 1.4));
            painter.setBrush(group.role == DxfRole::dowels ? p.accent : p.panel);
            painter.drawEllipse(at(circle.centre), circle.radius * scale_, circle.radius * scale_);
            if (placing_.origin == i && group.role == DxfRole::dowels) { // a cross through it
                const double arm = circle.radius * scale_ + scaled(10);
                painter.drawLine(at(circle.centre) - QPointF(arm, 0), at(circle.centre) + QPointF(arm, 0));
                painter.drawLine(at(circle.centre) - QPointF(0, arm), at(circle.centre) + QPointF(0, arm));
            }
        }
    const auto row = std::ranges::find(*groups_, DxfRole::cylinders, &block::DxfGroup::role);
    if (row == groups_->end())
        return;
    auto order = row->circles;
    std::ranges::sort(order, {}, [&](std::size_t i) { return drawing_->circles[i].centre.x; });
    if (placing_.other_end)
        std::ranges::reverse(order);
    painter.setFont(font_of(Type::number, true));
    painter.setPen(p.ink);
    for (std::size_t i = 0; i < order.size(); ++i) {
        const QPointF middle = at(drawing_->circles[order[i]].centre);
        painter.drawText(QRectF(middle - QPointF(30, 15), QSizeF(60, 30)), Qt::AlignCenter, QString::number(i + 1));
    }
}

void DxfPicture::mousePressEvent(QMouseEvent* event) {
    if (!groups_ || !drawing_)
        return;
    int hit = -1;
    std::size_t hit_circle = 0;
    double smallest = 1e300;
    for (std::size_t g = 0; g < groups_->size(); ++g)
        for (const std::size_t i : (*groups_)[g].circles) {
            const double r = std::max(scaled(8) * 1.0, drawing_->circles[i].radius * scale_);
            const QPointF off = event->position() - at(drawing_->circles[i].centre);
            if (std::hypot(off.x(), off.y()) <= r && r < smallest) {
                smallest = r;
                hit = static_cast<int>(g);
                hit_circle = i;
            }
        }
    Q_EMIT pressed(hit, hit_circle, place_of(event->position()));
}

metrology::Vec2 DxfPicture::place_of(QPointF at) const {
    const double flip = placing_.mirrored ? -1 : 1;
    return {middle_.x + (at.x() - width() / 2.0) / scale_, middle_.y - flip * (at.y() - height() / 2.0) / scale_};
}

DxfDialog::DxfDialog(Context context, const QString& file, block::Recipe base, QWidget* parent)
    : QDialog(parent), context_(context), file_(file), base_(std::move(base)), picture_(new DxfPicture(context, this)),
      words_(new PlainLabel(this)), unit_(new QComboBox(this)), press_says_(new QComboBox(this)),
      layers_(new QToolButton(this)), pitch_(new QLineEdit(this)),
      other_end_(new QCheckBox(tr("front at the &other end"), this)),
      mirrored_(new QCheckBox(tr("drawn from &below"), this)), gasket_(new QCheckBox(tr("it is a &gasket"), this)),
      progress_(new QProgressBar(this)), faults_(new FaultList(context, this)) {
    set_explained(this, QStringLiteral("page-engines-board"));
    setWindowTitle(tr("From a drawing: %1").arg(QFileInfo(file).fileName()));
    build();
    read();
}

void DxfDialog::build() {
    setMinimumSize(900, 600);
    unit_->setObjectName(QStringLiteral("dxf-unit"));
    unit_->setAccessibleName(tr("unit of the drawing"));
    unit_->addItems({tr("unit as it says"), tr("mm"), tr("inch")});
    press_says_->setObjectName(QStringLiteral("dxf-press-says"));
    press_says_->setAccessibleName(tr("what a press on the drawing says"));
    press_says_->addItems({tr("press: what circles are"), tr("press: the front cylinder"), tr("press: the datum dowel"),
                           tr("press: the side that is right, from the rear")});
    layers_->setObjectName(QStringLiteral("dxf-layers"));
    layers_->setText(tr("&layers"));
    layers_->setPopupMode(QToolButton::InstantPopup);
    layers_->setMenu(new QMenu(layers_));
    pitch_->setObjectName(QStringLiteral("dxf-pitch"));
    pitch_->setPlaceholderText(tr("true pitch of the bores, as a check"));
    pitch_->setAccessibleName(pitch_->placeholderText());
    other_end_->setObjectName(QStringLiteral("dxf-other-end"));
    mirrored_->setObjectName(QStringLiteral("dxf-mirrored"));
    gasket_->setObjectName(QStringLiteral("dxf-gasket"));
    words_->setObjectName(QStringLiteral("dxf-words"));
    words_->setWordWrap(true);
    set_type(words_, Type::text);
    progress_->setRange(0, 100);
    progress_->setObjectName(QStringLiteral("dxf-progress"));
    auto* line = new QHBoxLayout;
    for (QWidget* w : std::initializer_list<QWidget*>{press_says_, layers_, unit_, pitch_})
        line->addWidget(w);
    auto* boxes = new QHBoxLayout;
    for (QWidget* w : std::initializer_list<QWidget*>{other_end_, mirrored_, gasket_})
        boxes->addWidget(w);
    boxes->addStretch(1);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    take_ = buttons->button(QDialogButtonBox::Ok);
    take_->setText(tr("Onto the board"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 20, 20, 14);
    column->addWidget(picture_, 1);
    column->addWidget(progress_);
    column->addLayout(line);
    column->addLayout(boxes);
    column->addWidget(words_);
    column->addWidget(faults_);
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &DxfDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &DxfDialog::reject);
    connect(unit_, &QComboBox::currentIndexChanged, this, &DxfDialog::look_again);
    connect(pitch_, &QLineEdit::textChanged, this, &DxfDialog::look_again);
    for (QCheckBox* box : {other_end_, mirrored_, gasket_})
        connect(box, &QCheckBox::toggled, this, &DxfDialog::look_again);
    connect(picture_, &DxfPicture::group_pressed, this, &DxfDialog::change_role);
    connect(picture_, &DxfPicture::pressed, this, &DxfDialog::take_press);
}

void DxfDialog::read() {
    take_->setEnabled(false);
    words_->setText(tr("Reading the drawing…"));
    reading_.start(
        [file = file_, without = without_](const session::Errand& errand) {
            const block::ReadWatch watch{errand.progress, errand.cancelled};
            return read_text_file(file).and_then(
                [&](const block::NamedText& text) { return block::read_dxf(text.text, text.file, &watch, without); });
        },
        {[this](block::Result<block::DxfDrawing> drawing) {
             progress_->hide();
             if (!drawing) {
                 words_->clear();
                 return faults_->show_faults(drawing.error());
             }
             drawing_ = std::move(*drawing);
             groups_ = block::dxf_groups(drawing_);
             origin_.reset();
             show_layers();
             look_again();
         },
         [this](const QString& why) {
             faults_->show_faults({{file_.toStdString(), 0, why.toStdString(), ""}});
         },
         [this](double share) { progress_->setValue(static_cast<int>(100 * share)); }});
}

block::DxfPlacing DxfDialog::placing() const {
    block::DxfPlacing p;
    if (unit_->currentIndex() > 0)
        p.unit = unit_->currentIndex() == 1 ? block::Unit::mm : block::Unit::inch;
    p.distance = pitch_->text().trimmed().toStdString();
    p.other_end = other_end_->isChecked();
    p.mirrored = mirrored_->isChecked();
    p.gasket = gasket_->isChecked();
    p.origin = origin_;
    return p;
}

/// What is understood by what is stated now.
void DxfDialog::look_again() {
    if (reading_.running())
        return;
    picture_->show_drawing(&drawing_, &groups_, placing());
    const auto made =
        block::recipe_from_dxf(drawing_, groups_, placing(), base_, QFileInfo(file_).fileName().toStdString());
    take_->setEnabled(made.has_value());
    taken_ = made ? std::optional(*made) : std::nullopt;
    faults_->show_faults(made ? block::Faults{} : made.error());
    QStringList lines;
    if (made)
        for (const std::string& line : made->understood)
            lines << qt(line);
    for (const block::DxfGroup& group : groups_)
        if (group.role == DxfRole::other && lines.size() < 12)
            lines << tr("passed over: %1 of size %2").arg(group.circles.size()).arg(group.diameter, 0, 'g', 6);
    words_->setText(
        lines.join(QStringLiteral(" · ")) +
        tr("\nPress a circle to say what those of its size are: cylinders, dowels, nothing; or choose what a press "
           "says."));
}

void DxfDialog::change_role(int index) {
    if (index < 0 || index >= static_cast<int>(groups_.size()))
        return;
    block::DxfGroup& group = groups_[static_cast<std::size_t>(index)];
    group.role = group.role == DxfRole::other    ? DxfRole::dowels
                 : group.role == DxfRole::dowels ? DxfRole::cylinders
                                                 : DxfRole::other;
    if (group.role == DxfRole::cylinders) // there is one row of them
        for (block::DxfGroup& other : groups_)
            if (&other != &group && other.role == DxfRole::cylinders)
                other.role = DxfRole::other;
    look_again();
}

/// What is pressed is the front, the datum or the right side, or says what circles of its size are.
void DxfDialog::take_press(int group, std::size_t circle, metrology::Vec2 at) {
    enum Says { role, front, datum, right_side };
    const bool on_circle = group >= 0 && group < static_cast<int>(groups_.size());
    const DxfRole what = on_circle ? groups_[static_cast<std::size_t>(group)].role : DxfRole::other;
    switch (press_says_->currentIndex()) {
    case front:
        if (what == DxfRole::cylinders)
            other_end_->setChecked(block::front_at_other_end(drawing_, groups_, circle));
        break;
    case datum:
        if (what == DxfRole::dowels)
            origin_ = circle;
        break;
    case right_side:
        mirrored_->setChecked(block::drawn_from_below(drawing_, groups_, other_end_->isChecked(), at));
        break;
    default:
        return change_role(on_circle ? group : -1);
    }
    look_again();
}

/// The drawing's layers; those that are switched off are passed over, and the drawing is read anew.
void DxfDialog::show_layers() {
    layers_->menu()->clear();
    layers_->setEnabled(drawing_.layers.size() > 1);
    for (const auto& [name, pieces] : drawing_.layers) {
        QAction* layer = layers_->menu()->addAction(tr("%1 (%2)").arg(qt(name)).arg(pieces));
        layer->setCheckable(true);
        layer->setChecked(!without_.contains(name));
        connect(layer, &QAction::toggled, this, [this, key = name](bool on) {
            if (on)
                without_.erase(key);
            else
                without_.insert(key);
            progress_->show();
            read();
        });
    }
}

void DxfDialog::accept() {
    if (taken_)
        QDialog::accept();
}

void DxfDialog::reject() {
    reading_.cancel();
    QDialog::reject();
}

} // namespace pallix::ui
