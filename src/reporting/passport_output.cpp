// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/passport.h"

#include <QPainter>
#include <QPdfWriter>
#include <QSaveFile>
#include <QTextDocument>

namespace pallix::reporting {

void print_passport(const QString& html, QPagedPaintDevice& device) {
    QTextDocument document;
    document.documentLayout()->setPaintDevice(&device);
    document.setHtml(html);
    document.setDocumentMargin(0);
    const QSizeF page(device.width(), device.height());
    document.setPageSize(QSizeF(page.width(), -1)); // one long page first, to see how long it is
    const double shrink = std::min(1.0, page.height() / document.size().height());
    QPainter painter(&device);
    painter.scale(shrink, shrink);
    document.drawContents(&painter);
}

tl::expected<void, QString> save_passport_pdf(const QString& html, const QString& title, const QString& file) {
    QSaveFile out(file);
    if (!out.open(QIODevice::WriteOnly))
        return tl::unexpected(QStringLiteral("%1 cannot be written: %2").arg(file, out.errorString()));
    {
        QPdfWriter writer(&out);
        writer.setTitle(title);
        writer.setCreator(QStringLiteral("Pallix"));
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setPageMargins(QMarginsF(16, 14, 16, 14), QPageLayout::Millimeter);
        writer.setResolution(300);
        print_passport(html, writer);
    }
    if (!out.commit())
        return tl::unexpected(QStringLiteral("%1 cannot be written: %2").arg(file, out.errorString()));
    return {};
}

tl::expected<void, QString> save_passport_html(const QString& html, const QString& file) {
    QSaveFile out(file);
    const QByteArray bytes = html.toUtf8();
    if (!out.open(QIODevice::WriteOnly) || out.write(bytes) != bytes.size() || !out.commit())
        return tl::unexpected(QStringLiteral("%1 cannot be written: %2").arg(file, out.errorString()));
    return {};
}

} // namespace pallix::reporting
