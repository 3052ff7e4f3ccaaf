// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/fault_list.h"

#include "session/counted.h"

#include <QDialog>
#include <QVBoxLayout>

namespace pallix::ui {

FaultList::FaultList(Context context, QWidget* parent) : QPlainTextEdit(parent), context_(context) {
    setReadOnly(true);
    setObjectName(QStringLiteral("faults"));
    setAccessibleName(tr("what is wrong"));
    setTabChangesFocus(true);
    setVisible(false);
    QPalette p = palette();
    p.setColor(QPalette::Text, context.palette().fails);
    setPalette(p);
}

void FaultList::show_faults(const block::Faults& faults) {
    QStringList lines;
    for (const block::Fault& fault : faults)
        lines << qt(fault.text());
    if (lines.size() > 1)
        lines.prepend(tr("%1; nothing was taken in.")
                          .arg(session::counted(static_cast<qsizetype>(faults.size()), tr("fault"), tr("faults"))));
    setPlainText(lines.join(QLatin1Char('\n')));
    setVisible(!lines.isEmpty());
    setFixedHeight(qMin(220, 24 + 22 * qMax(3, static_cast<int>(lines.size()))));
}

void show_faults(const block::Faults& faults, Context context, QWidget* parent) {
    QDialog dialog(parent);
    dialog.setWindowTitle(QObject::tr("Not taken in"));
    dialog.setMinimumWidth(560);
    QVBoxLayout column(&dialog);
    auto* list = new FaultList(context, &dialog);
    list->show_faults(faults);
    column.addWidget(list);
    dialog.exec();
}

} // namespace pallix::ui
