// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/passport/passport_view.h"

#include "block/digest.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "reporting/paper.h"
#include "reporting/passport.h"
#include "ui/dialogs/ask.h"
#include "ui/files.h"
#include "ui/frame/plain_label.h"
#include "wording/common/sentences.h"

#include <QDate>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QPrintPreviewDialog>
#include <QPrinter>
#include <QPushButton>
#include <QRegularExpression>
#include <QTextBrowser>
#include <QVBoxLayout>

namespace pallix::ui {
namespace {
constexpr int on_screen = 1, on_paper = 3; // pixels of a picture

/// The sheet's type at the size everything is shown at: 10 points of paper are the text of the screen.
QString in_pixels(QString html) {
    static const QRegularExpression points(QStringLiteral("font-size: ([0-9.]+)pt"));
    for (auto found = points.match(html); found.hasMatch(); found = points.match(html, found.capturedStart() + 1))
        html.replace(found.capturedStart(), found.capturedLength(),
                     QStringLiteral("font-size: %1px").arg(scaled(found.captured(1).toDouble() * 1.5)));
    return html;
}
} // namespace

PassportView::PassportView(Context context, QWidget* parent)
    : View(parent), context_(context), sheet_(new QTextBrowser(this)), echo_(new PlainLabel(this)) {
    auto* heading = new PlainLabel(tr("Passport"), this);
    set_type(heading, Type::title, true);
    auto* save_button = new QPushButton(tr("Save as PDF or HTML…"), this);
    save_button->setToolTip(tr("The paper that goes with the block (Ctrl+S)"));
    auto* print_button = new QPushButton(tr("Print preview…"), this);
    print_button->setToolTip(tr("See the printed sheet first (Ctrl+P)"));
    auto* top = new QHBoxLayout;
    top->addWidget(heading);
    echo_->setObjectName(QStringLiteral("passport-echo"));
    echo_->setWordWrap(true);
    top->addWidget(echo_, 1);
    top->addWidget(save_button);
    top->addWidget(print_button);
    sheet_->setObjectName(QStringLiteral("passport"));
    sheet_->setAccessibleName(tr("passport of the block"));
    // Paper is white by night too.
    QPalette paper = sheet_->palette();
    paper.setColor(QPalette::Base, Qt::white);
    paper.setColor(QPalette::Text, QColor(0x1E, 0x25, 0x2B));
    sheet_->setPalette(paper);
    sheet_->setStyleSheet(QStringLiteral("QTextBrowser { background: white; color: #1E252B; padding: 12px 20px; }"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 14, 20, 12);
    column->addLayout(top);
    column->addWidget(sheet_, 1);
    connect(save_button, &QPushButton::clicked, this, &PassportView::save);
    connect(print_button, &QPushButton::clicked, this, &PassportView::preview_print);
    setFocusProxy(sheet_);
}

QString PassportView::html(int picture_scale) const {
    return reporting::passport_html({context_.session.state(), context_.session.assessment(),
                                     context_.session.entries(), context_.lengths(), picture_scale,
                                     QDate::currentDate().toString(Qt::ISODate)});
}

void PassportView::refresh() {
    if (context_.session.has_job())
        sheet_->setHtml(in_pixels(html(on_screen)));
    else
        sheet_->setPlainText(tr("Open a job first (F2)."));
}

void PassportView::save() {
    if (!context_.session.has_job())
        return;
    const QString file = QFileDialog::getSaveFileName(this, tr("Save the passport"),
                                                      file_name_of(qt(intake_of(context_.session.state()).title)) +
                                                          QStringLiteral(".pdf"),
                                                      tr("PDF (*.pdf);;HTML (*.html)"));
    if (file.isEmpty())
        return;
    const auto saved = file.endsWith(QStringLiteral(".html"), Qt::CaseInsensitive)
                           ? reporting::save_paper_html(html(on_paper), file)
                           : reporting::save_paper_pdf(html(on_paper), reporting::foot_of(context_.session.state()),
                                                       reporting::paper_of_locale(), file);
    echo_->setText(saved ? tr("saved: %1").arg(file) : saved.error());
}

void PassportView::preview_print() {
    if (!context_.session.has_job())
        return;
    QPrinter printer(QPrinter::HighResolution);
    printer.setPageSize(reporting::paper_of_locale());
    QPrintPreviewDialog preview(&printer, this);
    connect(&preview, &QPrintPreviewDialog::paintRequested, this, [this](QPrinter* device) {
        reporting::print_paper(html(on_paper), reporting::foot_of(context_.session.state()), *device);
    });
    preview.exec();
}

/// Whether the digest that stands on a paper is of this ledger.
void PassportView::hold_against_ledger() {
    const auto typed = ask_for_text(this, tr("Hold a paper against the ledger"),
                                    tr("The digest at the end of the paper; its first twelve digits are enough:"));
    if (!typed)
        return;
    const auto of = block::entry_of_digest(context_.session.entries(), typed->toStdString());
    echo_->setText(of ? qt(wording::digest_sentence(context_.session.entries(), *of)) : qt(wording::no_such_digest));
}

} // namespace pallix::ui
