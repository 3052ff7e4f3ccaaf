// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/manual_window.h"

#include "reporting/paper.h"
#include "ui/context.h"
#include "ui/dialogs/sheet_dialogs.h"
#include "ui/manual_help.h"
#include "ui/theme.h"

#include <QAbstractTextDocumentLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QScrollBar>
#include <QTextBlock>
#include <QTextBrowser>
#include <QTextList>
#include <QTimer>
#include <QUrl>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {
namespace {

constexpr int section_role = Qt::UserRole;

/// The heading of a document's n-th section.
QTextBlock heading_of(const QTextDocument& document, std::ptrdiff_t n) {
    for (QTextBlock block = document.begin(); block.isValid(); block = block.next())
        if (block.blockFormat().headingLevel() > 0 && n-- == 0)
            return block;
    return {};
}

/// Room between what belongs to different headings; Markdown knows none.
void give_room(QTextDocument& document) {
    document.setDocumentMargin(16_px);
    for (QTextBlock block = document.begin(); block.isValid(); block = block.next()) {
        QTextBlockFormat format = block.blockFormat();
        const int level = format.headingLevel();
        format.setTopMargin(level > 2 ? 12_px : level > 0 ? 24_px : 0_px);
        format.setBottomMargin(block.textList() ? 2_px : 6_px);
        format.setLineHeight(125, QTextBlockFormat::ProportionalHeight);
        QTextCursor(block).setBlockFormat(format);
    }
}

QListWidgetItem* item_of(const wording::ManualSection& section, const QString& indent) {
    auto* item = new QListWidgetItem(indent + qt(section.title));
    item->setData(section_role, qt(section.id));
    return item;
}

} // namespace

ManualWindow::ManualWindow(QWidget* parent)
    : QDialog(parent), search_(new QLineEdit(this)), list_(new QListWidget(this)), text_(new QTextBrowser(this)),
      back_(new QPushButton(tr("&Back"), this)) {
    setWindowTitle(tr("Manual"));
    resize(scaled(980), scaled(680));
    search_->setObjectName(QStringLiteral("manual-search"));
    search_->setPlaceholderText(tr("Search by words"));
    search_->setAccessibleName(tr("words to search the manual by"));
    search_->setClearButtonEnabled(true);
    list_->setObjectName(QStringLiteral("manual-list"));
    list_->setAccessibleName(tr("what the manual has"));
    fix_size(list_, 290, 0);
    text_->setObjectName(QStringLiteral("manual-text"));
    text_->setOpenLinks(false);
    text_->setAccessibleName(tr("a chapter of the manual"));
    auto* print = new QPushButton(tr("&Print…"), this);
    print->setObjectName(QStringLiteral("manual-print"));
    auto* close = new QPushButton(tr("Close"), this);
    for (QPushButton* button : {back_, print, close})
        button->setAutoDefault(false); // Enter is for what is searched
    auto* left = new QVBoxLayout;
    left->addWidget(search_);
    left->addWidget(list_, 1);
    auto* middle = new QHBoxLayout;
    middle->setSpacing(14);
    middle->addLayout(left);
    middle->addWidget(text_, 1);
    auto* end = new QHBoxLayout;
    end->addWidget(back_);
    end->addStretch();
    end->addWidget(print);
    end->addWidget(close);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 16, 16, 14);
    column->addLayout(middle, 1);
    column->addLayout(end);
    connect(search_, &QLineEdit::textChanged, this, &ManualWindow::search);
    connect(list_, &QListWidget::currentItemChanged, this, [this](const QListWidgetItem* item) {
        if (item && item->data(section_role).toString() != section_)
            show_section(item->data(section_role).toString());
    });
    connect(text_, &QTextBrowser::anchorClicked, this, &ManualWindow::follow);
    connect(back_, &QPushButton::clicked, this, &ManualWindow::step_back);
    connect(print, &QPushButton::clicked, this, &ManualWindow::print);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    list_contents();
    search_->setFocus();
}

/// Chapters and what they are divided into; what is within those is found by searching.
void ManualWindow::list_contents() {
    const QSignalBlocker quiet(list_);
    list_->clear();
    for (const wording::ManualSection& section : shipped_manual().sections())
        if (section.level <= 2)
            list_->addItem(item_of(section, section.level == 2 ? QStringLiteral("    ") : QString()));
}

void ManualWindow::search(const QString& typed) {
    if (typed.trimmed().isEmpty()) {
        list_contents();
        return turn_to(section_);
    }
    {
        const QSignalBlocker quiet(list_);
        list_->clear();
        for (const wording::ManualSection* found : shipped_manual().search(typed.toStdString()))
            list_->addItem(item_of(*found, {}));
        if (list_->count() == 0) {
            auto* none = new QListWidgetItem(tr("Nothing has these words."));
            none->setFlags(Qt::NoItemFlags);
            list_->addItem(none);
            return;
        }
    }
    list_->setCurrentRow(0);
}

void ManualWindow::show_section(const QString& id) {
    if (!section_.isEmpty() && id != section_)
        before_ << section_;
    turn_to(id);
}

void ManualWindow::turn_to(const QString& id) {
    const auto& manual = shipped_manual();
    const wording::ManualSection* section = manual.find(id.toStdString());
    if (!section)
        section = &manual.sections().front();
    section_ = qt(section->id);
    back_->setEnabled(!before_.isEmpty());
    if (chapter_ != section->chapter) {
        chapter_ = section->chapter;
        text_->document()->setMarkdown(qt(manual.chapter(chapter_)), QTextDocument::MarkdownDialectCommonMark);
        give_room(*text_->document());
    }
    // Where the section itself is not listed, the one that it stands in is marked.
    const QSignalBlocker quiet(list_);
    for (const auto* at = section; at >= manual.sections().data() && at->chapter == section->chapter; --at) {
        const auto rows =
            list_->model()->match(list_->model()->index(0, 0), section_role, qt(at->id), 1, Qt::MatchExactly);
        if (!rows.isEmpty()) {
            list_->setCurrentRow(rows.front().row());
            break;
        }
    }
    scroll_to_section();
}

void ManualWindow::scroll_to_section() {
    const auto& all = shipped_manual().sections();
    const wording::ManualSection* section = shipped_manual().find(section_.toStdString());
    if (!section)
        return;
    const auto first = std::ranges::find(all, section->chapter, &wording::ManualSection::chapter);
    const QTextBlock heading = heading_of(*text_->document(), section - &*first);
    if (!heading.isValid())
        return;
    QTextEdit::ExtraSelection here;
    here.cursor = QTextCursor(heading);
    here.cursor.movePosition(QTextCursor::EndOfBlock, QTextCursor::KeepAnchor);
    here.format.setForeground(palette().color(QPalette::Link));
    text_->setExtraSelections({here});
    text_->setTextCursor(QTextCursor(heading));
    const double top = text_->document()->documentLayout()->blockBoundingRect(heading).top();
    text_->verticalScrollBar()->setValue(static_cast<int>(top - 8_px));
}

void ManualWindow::follow(const QUrl& link) {
    if (link.scheme() == QLatin1String("manual"))
        show_section(link.path());
}

void ManualWindow::step_back() {
    if (!before_.isEmpty())
        turn_to(before_.takeLast());
}

void ManualWindow::print() {
    const QString html = manual_paper();
    preview_paper(
        [&html](QPagedPaintDevice& device) {
            reporting::print_paper(html, {tr("Pallix: manual"), {}}, device);
        },
        {}, false, this);
}

/// From the words that are searched by, up and down go through what was found.
void ManualWindow::keyPressEvent(QKeyEvent* event) {
    const int step = event->key() == Qt::Key_Down ? 1 : event->key() == Qt::Key_Up ? -1 : 0;
    if (step != 0 && !list_->hasFocus() && !text_->hasFocus())
        list_->setCurrentRow(std::clamp(list_->currentRow() + step, 0, std::max(0, list_->count() - 1)));
    else if (event->matches(QKeySequence::Back))
        step_back();
    else if (event->matches(QKeySequence::Find))
        search_->setFocus();
    else if (event->key() != Qt::Key_Return && event->key() != Qt::Key_Enter)
        QDialog::keyPressEvent(event);
}

void ManualWindow::resizeEvent(QResizeEvent* event) {
    QDialog::resizeEvent(event);
    QTimer::singleShot(0, this, &ManualWindow::scroll_to_section); // once the text is laid out anew
}

void ManualWindow::showEvent(QShowEvent* event) {
    QDialog::showEvent(event);
    QTimer::singleShot(0, this, &ManualWindow::scroll_to_section);
}

} // namespace pallix::ui
