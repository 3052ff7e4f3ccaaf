// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/manual_help.h"

#include "reporting/paper.h"
#include "ui/dialogs/manual_window.h"
#include "ui/files.h"

#include <QApplication>
#include <QDir>
#include <QTextDocument>
#include <QWidget>

namespace pallix::ui {
namespace {

constexpr const char* explained = "explained";

std::vector<std::string> chapters() {
    std::vector<std::string> texts;
    const auto files = QDir(QStringLiteral(":/manual")).entryList(QDir::Files, QDir::Name);
    for (const QString& file : files)
        texts.push_back(shipped_text(QStringLiteral("manual/") + file).toStdString());
    return texts;
}

} // namespace

const wording::Manual& shipped_manual() {
    static const wording::Manual manual(chapters());
    return manual;
}

void set_explained(QWidget* widget, const QString& id) {
    widget->setProperty(explained, id);
}

QString explained_by(const QWidget* widget) {
    for (; widget; widget = widget->parentWidget())
        if (const QString id = widget->property(explained).toString(); !id.isEmpty())
            return id;
    return {};
}

QString manual_paper() {
    QString text;
    for (std::size_t chapter = 0; chapter < shipped_manual().chapters(); ++chapter)
        text += QString::fromStdString(shipped_manual().chapter(chapter));
    QTextDocument all;
    all.setMarkdown(text, QTextDocument::MarkdownDialectCommonMark);
    return reporting::paper_html("Pallix: manual", all.toHtml());
}

void show_manual(QWidget* over, const QString& id) {
    QWidget* window = over->window();
    if (QApplication::activeModalWidget()) {
        ManualWindow manual(window);
        manual.show_section(id);
        manual.exec();
        return;
    }
    auto* manual = window->findChild<ManualWindow*>(QString(), Qt::FindDirectChildrenOnly);
    if (!manual)
        manual = new ManualWindow(window);
    manual->show_section(id);
    manual->show();
    manual->raise();
    manual->activateWindow();
}

} // namespace pallix::ui
