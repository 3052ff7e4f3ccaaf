// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/sheet_dialogs.h"

#include "planning/common/assessment.h"
#include "planning/steps/work_sheet.h"
#include "reporting/paper.h"
#include "ui/frame/plain_label.h"
#include "wording/steps/step_words.h"

#include <QLineEdit>
#include <QListWidget>
#include <QPrintPreviewDialog>
#include <QPrinter>
#include <QPushButton>
#include <QVBoxLayout>

namespace pallix::ui {

TickDialog::TickDialog(Context context, QWidget* parent)
    : QDialog(parent), context_(context), line_(new QLineEdit(this)), taken_(new QListWidget(this)),
      echo_(new PlainLabel(this)) {
    setWindowTitle(tr("Type a work sheet in"));
    setMinimumSize(560, 360);
    line_->setObjectName(QStringLiteral("tick-line"));
    line_->setAccessibleName(tr("a line of the sheet"));
    line_->setPlaceholderText(tr("four letters, then what was read or set: kfdm 0.0020 in"));
    taken_->setObjectName(QStringLiteral("tick-taken"));
    taken_->setAccessibleName(tr("what was taken in"));
    taken_->setFocusPolicy(Qt::NoFocus);
    echo_->setObjectName(QStringLiteral("tick-echo"));
    echo_->setWordWrap(true);
    auto* close = new QPushButton(tr("Done"), this);
    close->setAutoDefault(false);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 24, 24, 16);
    column->setSpacing(12);
    column->addWidget(line_);
    column->addWidget(echo_);
    column->addWidget(taken_, 1);
    column->addWidget(close, 0, Qt::AlignRight);
    connect(line_, &QLineEdit::returnPressed, this, &TickDialog::take);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
}

void TickDialog::take() {
    const auto& session = context_.session;
    const auto tick =
        planning::read_tick(session.assessment().steps, line_->text().toStdString(), context_.preferences.unit());
    if (!tick) {
        echo_->setText(qt(tick.error()));
        return line_->selectAll();
    }
    const planning::Step* step = session.assessment().steps.find(tick->step);
    const QString said = step ? qt(wording::step_headline(session.state(), *step, context_.lengths())) : qt(tick->step);
    if (const auto done = context_.session.answer(tick->step, tick->answers); !done) {
        echo_->setText(qt(done.error().front().text()));
        return line_->selectAll();
    }
    taken_->insertItem(0, line_->text() + QStringLiteral("   ") + said);
    echo_->clear();
    line_->clear();
}

void preview_paper(const std::function<void(QPagedPaintDevice&)>& print, const QString& paper, bool wide,
                   QWidget* parent) {
    QPrinter printer(QPrinter::HighResolution);
    printer.setPageSize(reporting::paper_named(paper));
    if (wide)
        printer.setPageOrientation(QPageLayout::Landscape);
    printer.setPageMargins(reporting::paper_margins, QPageLayout::Millimeter);
    QPrintPreviewDialog preview(&printer, parent);
    QObject::connect(&preview, &QPrintPreviewDialog::paintRequested, &preview,
                     [&print](QPrinter* device) { print(*device); });
    preview.exec();
}

void preview_sheet(const QString& html, const reporting::PaperFoot& foot, const QString& paper, QWidget* parent) {
    preview_paper([&](QPagedPaintDevice& device) { reporting::print_paper(html, foot, device); }, paper, false, parent);
}

} // namespace pallix::ui
