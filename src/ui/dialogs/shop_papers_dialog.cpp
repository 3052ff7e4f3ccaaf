// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/shop_papers_dialog.h"

#include "reporting/save.h"
#include "ui/dialogs/dialog_end.h"
#include "ui/files.h"
#include "ui/frame/plain_label.h"
#include "wording/report/outcome_words.h"

#include <QFileDialog>
#include <QHeaderView>
#include <QPushButton>
#include <QSignalBlocker>
#include <QTableWidget>
#include <array>

namespace pallix::ui {
namespace {

enum Line { shop, serials, engraving, most, letters, label, first_machine };
constexpr int what_column = 0, how_column = 1, comes_column = 2;

QTableWidgetItem* told(const QString& words) {
    auto* item = new QTableWidgetItem(words);
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
    return item;
}

/// "boring mill: X -Y -Z turn 12.5"; empty: no machine.
QString machine_text(const block::MachineAxes& axes) {
    return qt(axes.machine + ": " + block::axes_text(axes));
}

block::Result<block::MachineAxes> read_machine(const QString& typed) {
    const auto colon = typed.indexOf(QLatin1Char(':'));
    if (colon <= 0)
        return tl::unexpected(
            block::Faults{{"machine", 0, "\"" + typed.toStdString() + "\" names no machine and its axes",
                           "a name, a colon and along, across, up, such as boring mill: X -Y -Z"}});
    return block::read_axes(typed.left(colon).trimmed().toStdString(), typed.mid(colon + 1).trimmed().toStdString());
}

} // namespace

ShopPapersDialog::ShopPapersDialog(Context context, QWidget* parent)
    : QDialog(parent), context_(context), table_(new QTableWidget(this)), echo_(new PlainLabel(this)) {
    setWindowTitle(tr("The shop's papers, serials and machines"));
    setMinimumSize(760, 480);
    table_->setObjectName(QStringLiteral("shop-papers"));
    table_->setAccessibleName(tr("how the shop's papers are"));
    table_->setColumnCount(3);
    table_->setHorizontalHeaderLabels({tr("what"), tr("how"), tr("what comes of it")});
    table_->verticalHeader()->hide();
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    auto* read = new QPushButton(tr("Read a file…"), this);
    auto* write = new QPushButton(tr("Write a file…"), this);
    auto* files = new QHBoxLayout;
    files->addStretch(1);
    files->addWidget(read);
    files->addWidget(write);
    auto* column = new QVBoxLayout;
    column->addWidget(table_);
    column->addLayout(files);
    connect(read, &QPushButton::clicked, this, &ShopPapersDialog::read_file);
    connect(write, &QPushButton::clicked, this, &ShopPapersDialog::write_file);
    connect(table_, &QTableWidget::cellChanged, this, &ShopPapersDialog::follow);
    end_dialog(this, column, echo_, context_, tr("Keep"));
    fill(context_.session.papers_of_shop());
}

void ShopPapersDialog::fill(const block::ShopPapers& p) {
    {
        const QSignalBlocker quiet(table_);
        const std::array names{tr("name of the shop"),    tr("serials go"),        tr("line to engrave"),
                               tr("letters of one line"), tr("letters it can do"), tr("labels, mm")};
        const std::array values{qt(p.shop),
                                qt(p.serial_pattern),
                                qt(p.engraving),
                                QString::number(p.engraver.most),
                                qt(p.engraver.letters),
                                qt(block::label_text(p.label))};
        table_->setRowCount(first_machine + static_cast<int>(p.machines.size()) + 1);
        for (int row = 0; row < table_->rowCount(); ++row) {
            const bool machine = row >= first_machine;
            const auto i = static_cast<std::size_t>(machine ? row - first_machine : row);
            table_->setItem(row, what_column,
                            told(!machine                ? names[i]
                                 : i < p.machines.size() ? tr("machine: along, across, up")
                                                         : tr("another machine")));
            table_->setItem(row, how_column,
                            new QTableWidgetItem(!machine                ? values[i]
                                                 : i < p.machines.size() ? machine_text(p.machines[i])
                                                                         : QString()));
            table_->setItem(row, comes_column, told({}));
        }
    }
    follow();
}

block::Result<block::ShopPapers> ShopPapersDialog::typed() const {
    const auto text = [this](int row) { return table_->item(row, how_column)->text().trimmed(); };
    block::ShopPapers p;
    p.shop = text(shop).toStdString();
    p.serial_pattern = text(serials).toStdString();
    p.engraving = text(engraving).toStdString();
    bool is_number = false;
    const int count = text(most).toInt(&is_number);
    if (!is_number || count < 1 || count > 200)
        return tl::unexpected(
            block::Faults{{"letters of one line", 0, "\"" + text(most).toStdString() + "\" is no count", "1 to 200"}});
    p.engraver.most = static_cast<std::size_t>(count);
    p.engraver.letters = table_->item(letters, how_column)->text().toStdString(); // a blank may be one of them
    auto size = block::read_label(text(label).toStdString());
    if (!size)
        return tl::unexpected(size.error());
    p.label = *size;
    for (int row = first_machine; row < table_->rowCount(); ++row)
        if (const QString line = text(row); !line.isEmpty()) {
            auto axes = read_machine(line);
            if (!axes)
                return tl::unexpected(axes.error());
            p.machines.push_back(std::move(*axes));
        }
    if (auto fault = block::fault_of(p))
        return tl::unexpected(block::Faults{std::move(*fault)});
    return p;
}

void ShopPapersDialog::follow() {
    const auto papers = typed();
    echo_->setText(papers ? QString() : qt(papers.error().front().text()));
    if (!papers)
        return;
    const QSignalBlocker quiet(table_);
    const auto comes = [this](int row, const QString& words) { table_->item(row, comes_column)->setText(words); };
    comes(serials, tr("the next could be %1")
                       .arg(qt(block::next_serial(papers->serial_pattern, context_.session.now().substr(0, 10), {}))));
    QStringList sizes;
    for (const block::LabelSize& size : block::common_labels())
        sizes << qt(block::label_text(size));
    comes(label, tr("sold as %1").arg(sizes.join(QStringLiteral(", "))));
    if (context_.session.has_job()) {
        const std::string line = wording::engraving_line(papers->engraving, context_.session.state(),
                                                         context_.session.assessment(), context_.lengths());
        const auto made = block::engraved(papers->engraver, line);
        comes(engraving, made ? qt(*made) : qt(made.error().front().text()));
    }
    for (std::size_t i = 0; i < papers->machines.size(); ++i) {
        const metrology::Vec3 at = block::in_machine(papers->machines[i], {100, 50, 0});
        const wording::LengthText l(block::Unit::mm);
        comes(
            first_machine + static_cast<int>(i),
            tr("100 along, 50 across: X %1, Y %2, Z %3").arg(qt(l.plain(at.x)), qt(l.plain(at.y)), qt(l.plain(at.z))));
    }
}

void ShopPapersDialog::accept() {
    const auto papers = typed();
    if (!papers)
        return follow();
    if (const auto kept = context_.session.book().usual().keep_papers(*papers); !kept)
        return echo_->setText(kept.error().what + QLatin1Char(' ') + kept.error().way_out);
    QDialog::accept();
}

void ShopPapersDialog::read_file() {
    const QString file = QFileDialog::getOpenFileName(this, tr("How the shop's papers are"), {},
                                                      tr("Pallix shops (*.pallix-shop.json)"));
    if (file.isEmpty())
        return;
    const auto read = read_text_file(file).and_then(
        [](const block::NamedText& text) { return block::read_shop_papers(text.text, text.file); });
    if (read)
        fill(*read);
    else
        echo_->setText(qt(read.error().front().text()));
}

void ShopPapersDialog::write_file() {
    const auto papers = typed();
    if (!papers)
        return follow();
    const QString file =
        QFileDialog::getSaveFileName(this, tr("How the shop's papers are"), QStringLiteral("shop.pallix-shop.json"),
                                     tr("Pallix shops (*.pallix-shop.json)"));
    if (file.isEmpty())
        return;
    if (const auto saved = reporting::save_bytes(QByteArray::fromStdString(block::shop_papers_text(*papers)), file);
        !saved)
        echo_->setText(saved.error());
}

} // namespace pallix::ui
