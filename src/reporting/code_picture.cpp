// SPDX-License-Identifier: GPL-3.0-or-later
#include "reporting/code_picture.h"

#include "block/digest.h"
#include "block/shop_papers.h"
#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "wording/report/outcome_words.h"

#include <QBuffer>
#include <memory>
#include <qrencode.h>

namespace pallix::reporting {

std::string code_text(const block::JobState& state, const planning::Assessment& assessment,
                      const std::vector<block::Entry>& entries, const wording::LengthText& l) {
    const auto& serial = card_of(state).serial;
    if (!serial || entries.empty())
        return "";
    constexpr std::size_t longest_name = 60, digits = 16;
    const auto plain = [](std::string text) {
        std::ranges::replace_if(
            text, [](unsigned char c) { return c < ' ' || c == ';'; }, ' ');
        return text;
    };
    std::string text = std::string(block::serial_mark) + serial->payload.serial;
    if (const auto& blueprint = intake_of(state).blueprint)
        text += "; " + plain(QString::fromStdString(blueprint->name).left(longest_name).toStdString());
    for (const std::string& size : wording::key_sizes(state, assessment, l))
        text += "; " + size;
    return text + "; " + l.unit_name() + "; entry " + std::to_string(entries.back().sequence) + "; digest " +
           block::digest_of(entries).substr(0, digits);
}

QImage code_picture(const std::string& text, int module) {
    const std::unique_ptr<QRcode, decltype(&QRcode_free)> code(
        QRcode_encodeData(static_cast<int>(text.size()), reinterpret_cast<const unsigned char*>(text.data()), 0,
                          QR_ECLEVEL_M),
        &QRcode_free);
    if (!code)
        return {};
    constexpr int quiet = 4; // modules, ISO/IEC 18004
    const int side = code->width + 2 * quiet;
    QImage small(side, side, QImage::Format_Grayscale8);
    small.fill(Qt::white);
    for (int y = 0; y < code->width; ++y)
        for (int x = 0; x < code->width; ++x)
            if ((code->data[y * code->width + x] & 1) != 0)
                small.setPixel(x + quiet, y + quiet, 0);
    return small.scaled(side * module, side * module);
}

namespace {

/// A drawing has few colours: with a table of them it is packed many times as fast, and smaller. A photograph, which
/// has more of them than a table holds, stays as it is.
QImage with_few_colours(const QImage& image) {
    if (image.format() != QImage::Format_RGB32)
        return image;
    constexpr int bits = 5, dropped = 8 - bits, most = 256;
    std::vector<int> index(std::size_t{1} << (3 * bits), -1);
    QList<QRgb> table;
    QImage small(image.size(), QImage::Format_Indexed8);
    for (int y = 0; y < image.height(); ++y) {
        const auto* from = reinterpret_cast<const QRgb*>(image.constScanLine(y));
        uchar* to = small.scanLine(y);
        for (int x = 0; x < image.width(); ++x) {
            const QRgb c = from[x];
            int& known = index[static_cast<std::size_t>((qRed(c) >> dropped) << (2 * bits) |
                                                        (qGreen(c) >> dropped) << bits | (qBlue(c) >> dropped))];
            if (known < 0) {
                if (table.size() == most)
                    return image;
                known = static_cast<int>(table.size());
                table.append(c); // as it is first met: white stays white
            }
            to[x] = static_cast<uchar>(known);
        }
    }
    small.setColorTable(table);
    return small;
}

} // namespace

QByteArray png_of(const QImage& image) {
    QByteArray png;
    QBuffer buffer(&png);
    buffer.open(QIODevice::WriteOnly);
    constexpr int quickly = 85; // it is packed again with the page
    with_few_colours(image).save(&buffer, "PNG", quickly);
    return png;
}

QString picture_address(const QImage& image) {
    return QStringLiteral("data:image/png;base64,") + QString::fromLatin1(png_of(image).toBase64());
}

} // namespace pallix::reporting
