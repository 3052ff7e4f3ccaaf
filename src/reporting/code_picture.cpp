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

QString picture_address(const QImage& image) {
    QByteArray png;
    QBuffer buffer(&png);
    buffer.open(QIODevice::WriteOnly);
    constexpr int quickly = 85; // it is packed again with the page
    image.save(&buffer, "PNG", quickly);
    return QStringLiteral("data:image/png;base64,") + QString::fromLatin1(png.toBase64());
}

} // namespace pallix::reporting
