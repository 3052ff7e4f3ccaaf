// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/passport/passport_view.h"

#include "block/digest.h"
#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "reporting/paper.h"
#include "session/book_papers.h"
#include "ui/dialogs/ask.h"
#include "ui/dialogs/sheet_dialogs.h"
#include "ui/dialogs/shop_papers_dialog.h"
#include "ui/files.h"
#include "ui/frame/plain_label.h"
#include "wording/common/sentences.h"
#include "wording/report/outcome_words.h"

#include <QComboBox>
#include <QDate>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QPushButton>
#include <QRegularExpression>
#include <QSignalBlocker>
#include <QTextBrowser>
#include <QTimer>
#include <QVBoxLayout>

namespace pallix::ui {
namespace {
constexpr int on_screen = 1, on_paper = 2; // pixels of a picture

/// The sheet as the screen shows it: 10 points of paper are the text of the screen at the size everything is shown at,
/// and no picture is wider than there is room.
/// @param room pixels across
QString in_pixels(QString html, int room) {
    static const QRegularExpression width(QStringLiteral("<img width=\"([0-9]+)\""));
    constexpr double widest = 720; // of the layout, two beside one another with what is between
    const double smaller = std::min(1.0, room / widest);
    for (auto found = width.match(html); found.hasMatch(); found = width.match(html, found.capturedStart() + 1))
        html.replace(found.capturedStart(1), found.capturedLength(1),
                     QString::number(static_cast<int>(found.captured(1).toDouble() * smaller)));
    static const QRegularExpression points(QStringLiteral("font-size: ([0-9.]+)pt"));
    for (auto found = points.match(html); found.hasMatch(); found = points.match(html, found.capturedStart() + 1))
        html.replace(found.capturedStart(), found.capturedLength(),
                     QStringLiteral("font-size: %1px").arg(scaled(found.captured(1).toDouble() * 1.5)));
    return html;
}

QString all_faults(const block::Faults& faults) {
    QStringList lines;
    for (const block::Fault& fault : faults)
        lines << qt(fault.text());
    return lines.join(QLatin1Char('\n'));
}
} // namespace

PassportView::PassportView(Context context, QWidget* parent)
    : View(parent), context_(context), kinds_(new QComboBox(this)), machine_(new QComboBox(this)),
      save_(new QPushButton(tr("Save as…"), this)), print_(new QPushButton(tr("Print…"), this)),
      serial_(new QPushButton(this)), sheet_(new QTextBrowser(this)), echo_(new PlainLabel(this)) {
    kinds_->setObjectName(QStringLiteral("papers"));
    kinds_->setAccessibleName(tr("papers of the job"));
    kinds_->addItems({tr("Passport"), tr("For the owner"), tr("Estimate"), tr("Work sheet"), tr("Cutting caps"),
                      tr("Boring"), tr("Readings"), tr("Coordinates"), tr("Label"), tr("Tables of all"),
                      tr("Reckoning")});
    for (QComboBox* box : {kinds_, machine_}) { // the buttons beside them keep their words
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(12);
    }
    sheet_->setObjectName(QStringLiteral("passport"));
    sheet_->setAccessibleName(tr("the paper"));
    // Paper is white by night too.
    QPalette paper = sheet_->palette();
    paper.setColor(QPalette::Base, Qt::white);
    paper.setColor(QPalette::Text, QColor(0x1E, 0x25, 0x2B));
    sheet_->setPalette(paper);
    sheet_->setStyleSheet(QStringLiteral("QTextBrowser { background: white; color: #1E252B; padding: 12px 20px; }"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 14, 20, 12);
    column->addWidget(build_top());
    column->addWidget(echo_);
    column->addWidget(sheet_, 1);
    connect(kinds_, &QComboBox::currentIndexChanged, this, &PassportView::refresh);
    connect(machine_, &QComboBox::currentIndexChanged, this, &PassportView::refresh);
    setFocusProxy(sheet_);
}

QWidget* PassportView::build_top() {
    auto* top = new QWidget(this);
    auto* row = new QHBoxLayout(top);
    row->setContentsMargins(0, 0, 0, 0);
    echo_->setObjectName(QStringLiteral("passport-echo"));
    echo_->setWordWrap(true);
    echo_->hide();
    machine_->setObjectName(QStringLiteral("machine"));
    machine_->setAccessibleName(tr("machine whose axes the coordinates go by"));
    save_->setToolTip(tr("The paper as a file: its ending says the form (Ctrl+S)"));
    print_->setToolTip(tr("See the printed sheet first (Ctrl+P)"));
    serial_->setObjectName(QStringLiteral("serial"));
    row->addWidget(kinds_);
    row->addWidget(machine_);
    row->addStretch(1);
    for (QWidget* widget : {serial_, save_, print_})
        row->addWidget(widget);
    connect(save_, &QPushButton::clicked, this, &PassportView::save);
    connect(print_, &QPushButton::clicked, this, &PassportView::preview_print);
    connect(serial_, &QPushButton::clicked, this, [this] {
        if (card_of(context_.session.state()).serial)
            mark_serial();
        else
            give_serial();
    });
    return top;
}

reporting::PaperKind PassportView::kind() const {
    return static_cast<reporting::PaperKind>(std::max(0, kinds_->currentIndex()));
}

reporting::PaperWish PassportView::wish() const {
    return {kind(), reporting::paper_named(context_.preferences.paper()),
            machine_->currentData().toString().toStdString()};
}

reporting::PaperSource PassportView::source(int picture_scale) const {
    reporting::PaperSource s{context_.session.state(),
                             context_.session.assessment(),
                             context_.session.entries(),
                             context_.lengths(),
                             picture_scale,
                             QDate::currentDate().toString(Qt::ISODate)};
    s.of_book = session::of_book(context_.session.book(), context_.session.state());
    if (kind() == reporting::PaperKind::reckoning) {
        s.of_book.practice = context_.practice.result();
        if (picture_scale == on_paper && context_.practice.reckons()) {
            context_.practice.insist();
            s.of_book.practice = context_.practice.result();
        }
        s.of_book.practice_awaited = context_.practice.reckons();
    }
    if (hours_)
        s.of_book.hours = hours_();
    return s;
}

void PassportView::refresh() {
    const bool job = context_.session.has_job();
    for (QWidget* widget : std::initializer_list<QWidget*>{kinds_, save_, print_, serial_})
        widget->setEnabled(job);
    print_->setEnabled(job && kind() != reporting::PaperKind::data);
    if (!job) {
        machine_->hide();
        serial_->hide();
        return sheet_->setPlainText(tr("Open a job first (F2)."));
    }
    fill_machines();
    show_serial();
    // What is printed with the longer side across is wider than the window, and scrolled.
    constexpr double lying = 1000; // pixels
    const bool wide = reporting::is_wide(kind());
    sheet_->setLineWrapMode(wide ? QTextEdit::FixedPixelWidth : QTextEdit::WidgetWidth);
    if (wide)
        sheet_->setLineWrapColumnOrWidth(static_cast<int>(scaled(lying)));
    html_ = reporting::html_of(source(on_screen), wish());
    lay_out();
}

void PassportView::lay_out() {
    sheet_->setHtml(in_pixels(html_, sheet_->viewport()->width()));
}

void PassportView::resizeEvent(QResizeEvent* event) {
    View::resizeEvent(event);
    if (context_.session.has_job() && !html_.isEmpty())
        QTimer::singleShot(0, this, &PassportView::lay_out); // once the sheet has its new width
}

void PassportView::fill_machines() {
    const auto machines = context_.session.papers_of_shop().machines;
    const QString chosen = machine_->currentData().toString();
    const QSignalBlocker quiet(machine_);
    machine_->clear();
    machine_->addItem(tr("along and across"), QString());
    for (const block::MachineAxes& axes : machines)
        machine_->addItem(qt(axes.machine), qt(axes.machine));
    machine_->setCurrentIndex(std::max(0, machine_->findData(chosen)));
    machine_->setVisible(kind() == reporting::PaperKind::coordinates && !machines.empty());
}

/// What is to be done about the block's serial.
void PassportView::show_serial() {
    const auto& serial = card_of(context_.session.state()).serial;
    const bool open = !serial || serial->payload.engraved.empty();
    serial_->setVisible(open && (kind() == reporting::PaperKind::passport || kind() == reporting::PaperKind::label));
    serial_->setText(serial ? tr("Marked…") : tr("Give a serial"));
    serial_->setToolTip(serial ? tr("The line that was marked on the block (Ctrl+Alt+M)")
                               : tr("The next by the shop's pattern (Ctrl+Alt+S)"));
    serial_->parentWidget()->layout()->activate(); // at once: it may have been hidden until now
}

void PassportView::show_paper(reporting::PaperKind kind) {
    kinds_->setCurrentIndex(static_cast<int>(kind));
}

void PassportView::save() {
    if (!context_.session.has_job())
        return;
    QStringList filters;
    for (const QString& format : reporting::formats_of(kind()))
        filters << QStringLiteral("%1 (*.%2)").arg(format.toUpper(), format);
    const QString title = qt(intake_of(context_.session.state()).title);
    const QString name =
        kind() == reporting::PaperKind::passport ? title : title + QLatin1Char(' ') + kinds_->currentText();
    const QString file = QFileDialog::getSaveFileName(
        this, tr("Save the paper"), file_name_of(name) + QLatin1Char('.') + reporting::formats_of(kind()).front(),
        filters.join(QStringLiteral(";;")));
    if (file.isEmpty())
        return;
    const auto saved = reporting::write_paper(source(on_paper), wish(), file);
    say(saved ? tr("saved: %1").arg(saved->join(QStringLiteral(", "))) : saved.error());
}

void PassportView::preview_print() {
    if (!context_.session.has_job() || kind() == reporting::PaperKind::data)
        return;
    preview_paper([this](QPagedPaintDevice& device) { reporting::print(source(on_paper), wish(), device); },
                  context_.preferences.paper(), reporting::is_wide(kind()), this);
}

/// Whether the digest that stands on a paper is of this ledger.
void PassportView::hold_against_ledger() {
    if (const auto typed = ask_for_text(this, tr("Hold a paper against the ledger"),
                                        tr("The digest at the end of the paper; its first twelve digits are enough:")))
        hold(*typed);
}

void PassportView::hold(const QString& digest) {
    const auto of = block::entry_of_digest(context_.session.entries(), digest.toStdString());
    say(of ? qt(wording::digest_sentence(context_.session.entries(), *of)) : qt(wording::no_such_digest));
}

void PassportView::say(const QString& words) {
    echo_->setText(words);
    echo_->setVisible(!words.isEmpty()); // the paper has the room
}

void PassportView::give_serial() {
    if (!context_.session.has_job())
        return;
    if (const auto& known = card_of(context_.session.state()).serial)
        return say(tr("It has one: %1.").arg(qt(known->payload.serial)));
    const auto given = context_.session.give_serial();
    say(given ? tr("Serial %1.").arg(qt(card_of(context_.session.state()).serial->payload.serial))
              : all_faults(given.error()));
}

void PassportView::mark_serial() {
    if (!context_.session.has_job())
        return;
    const block::ShopPapers papers = context_.session.papers_of_shop();
    const std::string line = wording::engraving_line(papers.engraving, context_.session.state(),
                                                     context_.session.assessment(), context_.lengths());
    const auto typed =
        ask_for_text(this, tr("Marked on the block"),
                     tr("The line as it stands on the block now, at most %1 letters:").arg(papers.engraver.most),
                     qt(block::engraved(papers.engraver, line).value_or(line)));
    if (!typed)
        return;
    const auto marked = context_.session.mark_serial(typed->toStdString());
    say(marked ? QString() : all_faults(marked.error()));
}

void PassportView::set_up_papers() {
    ShopPapersDialog(context_, this).exec();
    refresh();
}

} // namespace pallix::ui
