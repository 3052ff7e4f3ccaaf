// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/cylinders/sleeve_page.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "ui/frame/echo.h"
#include "ui/frame/figure_form.h"
#include "ui/frame/plain_label.h"
#include "ui/marks.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/readings/readings.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

using Kind = FigureForm::Kind;

namespace {

constexpr std::array outsides{"outside-1", "outside-2", "outside-3", "outside-4", "outside-5", "outside-6"};

const planning::SleeveWork* sleeve_of(const Context& context, const std::optional<block::FeatureId>& bore) {
    const auto& work = context.session.assessment().cylinders;
    if (!work || !bore)
        return nullptr;
    const auto found = std::ranges::find(work->sleeves, *bore, &planning::SleeveWork::bore);
    return found == work->sleeves.end() ? nullptr : &*found;
}

} // namespace

SleeveDrawing::SleeveDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("sleeve-drawing"), tr("the sleeve in its seat, cut open"), parent) {}

void SleeveDrawing::show_bore(const std::optional<block::FeatureId>& bore) {
    bore_ = bore;
    update();
}

void SleeveDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const Palette& p = context_.palette();
    const auto& state = context_.session.state();
    const auto l = context_.lengths();
    const auto* sleeve = sleeve_of(context_, bore_);
    painter.setFont(font_of(Type::text));
    painter.setPen(p.quiet);
    if (!sleeve) {
        painter.drawText(rect().adjusted(20, 0, -20, 0), Qt::AlignCenter | Qt::TextWordWrap,
                         tr("This cylinder is not to be sleeved. Decide on it on the page Size."));
        return;
    }
    const auto& insert = bores_of(state).bore(*bore_).insert;
    const double top = 46, bottom = height() - 34, middle = width() * 0.36, half = std::min(110.0, width() * 0.17);
    const double block = 46, wall = 20, ledge = insert && insert->payload.ledge ? 10 : 0;
    const double raise = sleeve->proud && *sleeve->proud > 0 ? 6 : sleeve->fitted ? 0 : 22; // not yet in: shown lifted
    for (const int side : {-1, 1}) {
        const auto span = [&](double from, double to, double y0, double y1) {
            const double a = middle + side * from, b = middle + side * to;
            return QRectF(QPointF(std::min(a, b), y0), QPointF(std::max(a, b), y1));
        };
        painter.setPen(QPen(p.deck.edge, 1.2));
        painter.setBrush(p.deck.iron_low);
        painter.drawRect(span(half, half + block, top, bottom));
        if (ledge > 0)
            painter.drawRect(span(half - ledge, half, bottom - 14, bottom));
        painter.setBrush(p.selected);
        painter.drawRect(
            span(half - wall, half, top - raise, bottom - (ledge > 0 ? 14 : 0) - (sleeve->fitted ? 0 : raise)));
    }
    painter.setPen(QPen(p.accent, 2));
    painter.drawLine(QPointF(middle - half - block, top), QPointF(middle - half, top)); // the deck
    painter.drawLine(QPointF(middle + half, top), QPointF(middle + half + block, top));
    painter.setFont(font_of(Type::small));
    painter.setPen(p.ink);
    painter.drawText(
        QRectF(middle - half, 8, 2 * half, 18), Qt::AlignCenter,
        sleeve->fitted
            ? (sleeve->proud && *sleeve->proud > 0 ? tr("proud %1").arg(qt(l.with_unit(*sleeve->proud))) : tr("flush"))
            : tr("not yet in"));
    if (!insert)
        return;
    const auto& outside = insert->payload.outside;
    const double mean = planning::insert_shape(outside, insert->payload.interference).mean;
    constexpr std::array levels{"top", "middle", "bottom"};
    for (std::size_t i = 0; i < 3; ++i) {
        const double y = top + 16 + static_cast<double>(i) * (bottom - top - 40) / 2;
        painter.setPen(p.ink);
        painter.drawText(
            QRectF(middle + half + block + 16, y - 9, width() - middle - half - block - 24, 18), Qt::AlignLeft,
            tr("%1:  %2   %3   (%4 %5)")
                .arg(QString::fromLatin1(levels[i]), qt(l.plain(outside[2 * i])), qt(l.plain(outside[2 * i + 1])),
                     qt(l.with_sign(outside[2 * i] - mean)), qt(l.with_sign(outside[2 * i + 1] - mean))));
    }
    if (sleeve->plan) {
        painter.setPen(p.accent);
        painter.setFont(font_of(Type::number, true));
        painter.drawText(QRectF(middle - half + wall, (top + bottom) / 2 - 12, 2 * (half - wall), 24), Qt::AlignCenter,
                         tr("seat %1").arg(qt(l.plain(sleeve->plan->seat))));
    }
}

SleevePage::SleevePage(Context context, QWidget* parent)
    : QWidget(parent), context_(context), drawing_(new SleeveDrawing(context, this)), words_(new PlainLabel(this)),
      form_(new FigureForm(context, this)), heated_(new QCheckBox(tr("heat the block, drop it in"), this)),
      proud_(new QLineEdit(this)), note_(new QLineEdit(this)),
      echo_(new Echo(context, QStringLiteral("sleeve-echo"), this)) {
    words_->setObjectName(QStringLiteral("sleeve-words"));
    words_->setWordWrap(true);
    const QStringList labels{tr("top, one way"), tr("other way"), tr("middle"),
                             tr("other way"),    tr("bottom"),    tr("other way")};
    for (int i = 0; i < 6; ++i)
        form_->add(i % 2, i / 2, labels[i], outsides[static_cast<std::size_t>(i)], Kind::length,
                   tr("Outside of the sleeve"));
    form_->add(0, 3, tr("inside"), "inside", Kind::length, tr("Its own bore, as it comes"));
    form_->add(1, 3, tr("length"), "length", Kind::length, tr("That is pressed"));
    form_->add(2, 0, tr("interference"), "interference", Kind::length,
               tr("The shop's number; dry iron in iron 1 to 1.5 thou"));
    form_->add(2, 1, tr("metal round it"), "parent", Kind::length, tr("Outside diameter of the metal that holds it"));
    form_->add(2, 2, tr("step below"), "ledge", Kind::length,
               tr("Left square at the bottom for it to sit on; empty: bored through"));
    form_->add(2, 3, tr("friction"), "friction", Kind::number);
    form_->add(3, 0, tr("E sleeve"), "e-insert", Kind::number, tr("N/mm²; grey iron about 110000"));
    form_->add(3, 1, tr("E block"), "e-parent", Kind::number, tr("N/mm²; aluminium about 71000"));
    form_->add(3, 2, tr("slide"), "slide", Kind::length, tr("Clearance wanted while it drops in hot"));
    heated_->setObjectName(QStringLiteral("heated"));
    auto* keep = new QPushButton(tr("&Keep the sleeve"), this);
    keep->setObjectName(QStringLiteral("keep-sleeve"));
    form_->add_widget(3, 3, QString(), keep);
    auto* row = new QHBoxLayout;
    row->addWidget(heated_);
    row->addStretch();
    proud_->setObjectName(QStringLiteral("sleeve-proud"));
    proud_->setAccessibleName(tr("proud of the deck"));
    proud_->setFixedWidth(84);
    note_->setObjectName(QStringLiteral("sleeve-note"));
    note_->setAccessibleName(tr("note on fitting"));
    note_->setPlaceholderText(tr("seated square, driven to the step"));
    note_->setMinimumWidth(220);
    auto* fitted = new QPushButton(tr("It is &in"), this);
    fitted->setObjectName(QStringLiteral("sleeve-in"));
    row->addWidget(new PlainLabel(tr("proud"), this));
    row->addWidget(proud_);
    row->addWidget(note_);
    row->addWidget(fitted);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(drawing_, 1);
    column->addWidget(words_);
    column->addWidget(form_);
    column->addLayout(row);
    column->addWidget(echo_);
    connect(keep, &QPushButton::clicked, this, &SleevePage::keep);
    connect(form_, &FigureForm::entered, this, &SleevePage::keep);
    setFocusProxy(form_->field(outsides.front()));
    connect(fitted, &QPushButton::clicked, this, &SleevePage::log_fitted);
}

void SleevePage::show_bore(const std::optional<block::FeatureId>& bore) {
    bore_ = bore;
    drawing_->show_bore(bore);
    if (intake_of(context_.session.state()).blueprint)
        fill();
}

void SleevePage::fill() {
    const auto& state = context_.session.state();
    const auto insert = bore_ ? bores_of(state).bore(*bore_).insert : std::nullopt;
    block::InsertMeasured i = insert ? insert->payload : block::InsertMeasured{};
    const auto positive = [](double x) { return x > 0 ? std::optional(x) : std::nullopt; };
    FigureForm::Figures f{{"inside", positive(i.inside)},
                          {"length", positive(i.length)},
                          {"interference", positive(i.interference)},
                          {"parent", positive(i.parent_outside)},
                          {"ledge", i.ledge},
                          {"friction", i.friction},
                          {"e-insert", i.insert_modulus},
                          {"e-parent", intake_of(state).blueprint->material == block::Material::aluminium && !insert
                                           ? 71000
                                           : i.parent_modulus},
                          {"slide", i.slide}};
    for (std::size_t k = 0; k < outsides.size(); ++k)
        f[outsides[k]] = positive(i.outside[k]);
    form_->fill(f);
    heated_->setChecked(i.heated);
    QStringList words;
    if (const auto* sleeve = sleeve_of(context_, bore_)) {
        words << qt(wording::feature_words(*intake_of(state).blueprint, *bore_)) + QLatin1Char('.');
        for (const std::string& s : wording::sleeve_sentences(*sleeve, context_.lengths()))
            words << qt(s);
    }
    words_->setText(words.join(QLatin1Char(' ')));
}

void SleevePage::keep() {
    if (!sleeve_of(context_, bore_))
        return echo_->complain(tr("Decide first that this cylinder is sleeved: on the page Size."));
    const auto f = form_->read(*echo_);
    if (!f)
        return;
    for (const char* needed : {"inside", "length", "interference", "parent"})
        if (!f->at(needed)) {
            form_->field(needed)->setFocus();
            return echo_->complain(tr("Still needed: %1.").arg(form_->field(needed)->accessibleName()));
        }
    block::InsertMeasured i;
    i.bore = *bore_;
    for (std::size_t k = 0; k < outsides.size(); ++k) {
        if (!f->at(outsides[k])) {
            form_->field(outsides[k])->setFocus();
            return echo_->complain(tr("Six outside readings: top, middle and bottom, two ways each."));
        }
        i.outside[k] = *f->at(outsides[k]);
    }
    i.inside = *f->at("inside");
    i.length = *f->at("length");
    i.interference = *f->at("interference");
    i.parent_outside = *f->at("parent");
    i.ledge = f->at("ledge");
    i.friction = f->at("friction").value_or(i.friction);
    i.insert_modulus = f->at("e-insert").value_or(i.insert_modulus);
    i.parent_modulus = f->at("e-parent").value_or(i.parent_modulus);
    if (intake_of(context_.session.state()).blueprint->material == block::Material::aluminium)
        i.parent_poisson = 0.33;
    i.slide = f->at("slide").value_or(i.slide);
    i.heated = heated_->isChecked();
    if (echo_->took(context_.session.take(i)))
        echo_->say(tr("Kept: the seat follows from it."));
}

void SleevePage::log_fitted() {
    const auto* sleeve = sleeve_of(context_, bore_);
    if (!sleeve || !sleeve->measured)
        return echo_->complain(tr("Measure the sleeve first: its six outside readings."));
    bool fine = true;
    const auto proud = echo_->length_in(proud_, fine);
    if (!fine)
        return;
    if (!proud)
        return echo_->complain(tr("Type how far it stands above the deck; 0 for flush."));
    if (!echo_->took(
            context_.session.take(block::InsertFitted{*bore_, *proud, {}, {}, note_->text().trimmed().toStdString()})))
        return;
    proud_->clear();
    note_->clear();
    echo_->say(tr("Logged. Its neighbours are to be measured again."));
}

} // namespace pallix::ui
