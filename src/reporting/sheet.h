// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <QStringList>
#include <string>
#include <utility>
#include <vector>

namespace pallix::reporting {

/// Words as they stand on a page: whatever they hold, they are no markup.
[[nodiscard]] inline QString q(const std::string& text) {
    return QString::fromStdString(text).toHtmlEscaped();
}

/// A paper on its way to be HTML, part by part. What is put in is markup already: words go through `q`.
class Sheet {
  public:
    /// A row of a table, cell by cell.
    struct Row {
        QStringList cells;
        qsizetype words = 1; ///< how many from the left are words, not numbers
    };
    class Rows {
      public:
        void operator+=(Row row) { all_.push_back(std::move(row)); }
        [[nodiscard]] bool isEmpty() const { return all_.empty(); }
        [[nodiscard]] const std::vector<Row>& all() const { return all_; }

      private:
        std::vector<Row> all_;
    };

    /// @param room points across the page, of the narrower paper
    explicit Sheet(double room = upright) : room_(room) {}
    static constexpr double upright = 490, lying = 700; ///< points across a page on either side
    [[nodiscard]] const QString& body() const { return body_; }

    void add(const QString& html) { body_ += html + QLatin1Char('\n'); }
    void heading(const QString& words) { add(QStringLiteral("<h2>%1</h2>").arg(words)); }
    /// Begins a page.
    void first_heading(const QString& words) { add(QStringLiteral("<h2 class=\"first\">%1</h2>").arg(words)); }
    void paragraph(const QString& html) { add(QStringLiteral("<p>%1</p>").arg(html)); }
    void quiet(const QString& html) { paragraph(QStringLiteral("<span class=\"quiet\">%1</span>").arg(html)); }
    /// Nothing where there are none.
    void list(const QStringList& lines) {
        if (!lines.isEmpty())
            add(QStringLiteral("<ul><li>%1</li></ul>").arg(lines.join(QStringLiteral("</li><li>"))));
    }
    /// Its heads stand over every page that it goes on to; each column gets the room that its words need,
    /// one that says nothing in any row is left out.
    void table(const QStringList& heads, const Rows& rows);
    /// Nothing where it has no rows.
    void section(const QString& title, const QStringList& heads, const Rows& rows) {
        if (rows.isEmpty())
            return;
        heading(title);
        table(heads, rows);
    }

    /// @param words how many cells from the left are words, not numbers
    [[nodiscard]] static Row row(QStringList cells, qsizetype words = 1) { return {std::move(cells), words}; }
    /// @param width in pixels of the layout
    [[nodiscard]] static QString picture(const QString& address, int width) {
        return QStringLiteral("<img width=\"%1\" src=\"%2\">").arg(width).arg(address);
    }
    /// Pictures beside one another, each over its words.
    void pictures(const QStringList& images, const QStringList& words) {
        QString cells;
        for (qsizetype i = 0; i < images.size(); ++i)
            cells += QStringLiteral("<td>%1<br><span class=\"quiet\">%2</span></td>").arg(images[i], words[i]);
        if (!cells.isEmpty())
            add(QStringLiteral("<table><tr>%1</tr></table>").arg(cells));
    }

  private:
    double room_;
    QString body_;
};

} // namespace pallix::reporting
