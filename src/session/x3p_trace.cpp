// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/x3p_trace.h"

#include "block/digest.h"
#include "block/number_text.h"
#include "block/profile_trace.h"

#include <QCryptographicHash>
#include <QHash>
#include <QXmlStreamReader>
#include <QtEndian>
#include <cmath>
#include <memory>
#include <zip.h>

namespace pallix::session {
namespace {

constexpr qint64 largest_part = 256 << 20; // bytes, unpacked
constexpr qint64 most_points = 10'000'000;
constexpr double mm_per_m = 1e3, um_per_m = 1e6;

/// What main.xml says of one axis. Places and heights are number · increment + offset, metres.
struct Axis {
    bool absolute = false; ///< each point has its own
    char type = 'D';       ///< of its numbers in a binary: I 16 bits, L 32 bits, F single, D double
    double increment = 1, offset = 0;
};

struct Document {
    QString feature;
    Axis x, y, z;
    qint64 points = 0, lines = 1;
    QString link, checksum, valid_link, valid_checksum;
    QStringList data; ///< a text for each point
};

qsizetype bytes_of(char type) {
    return type == 'I' ? 2 : type == 'D' ? 8 : 4;
}

double number_at(const char* bytes, char type) {
    switch (type) {
    case 'I':
        return qFromLittleEndian<qint16>(bytes);
    case 'L':
        return qFromLittleEndian<qint32>(bytes);
    case 'F':
        return qFromLittleEndian<float>(bytes);
    default:
        return qFromLittleEndian<double>(bytes);
    }
}

class X3pReader {
  public:
    explicit X3pReader(const block::NamedText& file) : file_(file) {}

    block::Result<block::NamedText> read() {
        zip_source_t* bytes = zip_source_buffer_create(file_.text.data(), file_.text.size(), 0, nullptr);
        zip_.reset(bytes ? zip_open_from_source(bytes, ZIP_RDONLY, nullptr) : nullptr);
        if (!zip_) {
            zip_source_free(bytes);
            return fault("this is no X3P file, or a part of it is missing", "a zip with main.xml");
        }
        const QByteArray xml = part(QStringLiteral("main.xml"));
        if (fault_)
            return tl::unexpected(block::Faults{*fault_});
        if (!agrees_with_checksum(xml) || !understand(xml) || !gather())
            return tl::unexpected(block::Faults{*fault_});
        return written();
    }

  private:
    tl::unexpected<block::Faults> fault(std::string what, std::string expected) {
        fault_ = block::Fault{file_.file, 0, std::move(what), std::move(expected)};
        return tl::unexpected(block::Faults{*fault_});
    }
    bool fails(std::string what, std::string expected) {
        fault(std::move(what), std::move(expected));
        return false;
    }

    /// @return the part's bytes; an empty text and a fault where it is missing, damaged or too large
    QByteArray part(const QString& name) {
        const QByteArray called = name.toUtf8();
        zip_stat_t info;
        if (zip_stat(zip_.get(), called.constData(), 0, &info) != 0 || (info.valid & ZIP_STAT_SIZE) == 0) {
            fault(name.toStdString() + " is missing in it", "an X3P file as it was written");
            return {};
        }
        if (info.size > static_cast<zip_uint64_t>(largest_part)) {
            fault(name.toStdString() + " is too large", "at most 256 MB unpacked");
            return {};
        }
        const std::unique_ptr<zip_file_t, decltype(&zip_fclose)> inside(zip_fopen(zip_.get(), called.constData(), 0),
                                                                        &zip_fclose);
        QByteArray bytes(static_cast<qsizetype>(info.size), Qt::Uninitialized);
        char beyond = 0; // its checksum is looked at once the end was read
        if (!inside || zip_fread(inside.get(), bytes.data(), info.size) != static_cast<zip_int64_t>(info.size) ||
            zip_fread(inside.get(), &beyond, 1) != 0) {
            fault(name.toStdString() + " is damaged", "an X3P file as it was written");
            return {};
        }
        return bytes;
    }

    static QByteArray md5(const QByteArray& bytes) {
        return QCryptographicHash::hash(bytes, QCryptographicHash::Md5).toHex();
    }

    /// Record 4's file holds the checksum of main.xml and its name, as md5sum writes them.
    bool agrees_with_checksum(const QByteArray& xml) {
        const QString name = QStringLiteral("md5checksum.hex");
        if (zip_name_locate(zip_.get(), name.toUtf8().constData(), 0) < 0)
            return true;
        const QByteArray stated = part(name).simplified().toLower();
        return (!fault_ && stated.startsWith(md5(xml))) ||
               fails("main.xml does not agree with its checksum", "an X3P file as it was written");
    }

    bool understand(const QByteArray& xml) {
        QXmlStreamReader reader(xml);
        QStringList path;
        QString text;
        while (!reader.atEnd()) {
            switch (reader.readNext()) {
            case QXmlStreamReader::StartElement:
                path << reader.name().toString();
                text.clear();
                break;
            case QXmlStreamReader::Characters:
                text += reader.text();
                break;
            case QXmlStreamReader::EndElement:
                if (!take(path, text.trimmed()))
                    return false;
                path.removeLast();
                text.clear();
                break;
            default:
                break;
            }
        }
        if (reader.hasError())
            return fails("main.xml, line " + std::to_string(reader.lineNumber()) + ": " +
                             reader.errorString().toStdString(),
                         "well-formed XML");
        if (root_ != QStringLiteral("ISO5436_2"))
            return fails("main.xml is no surface texture: its outermost element is \"" + root_.toStdString() + "\"",
                         "ISO5436_2");
        return true;
    }

    bool take(const QStringList& path, const QString& text) {
        if (path.size() == 1)
            root_ = path.front();
        const QString inside = path.mid(1).join(QLatin1Char('/'));
        if (inside == QStringLiteral("Record1/FeatureType"))
            x3p_.feature = text;
        else if (inside == QStringLiteral("Record3/DataLink/PointDataLink"))
            x3p_.link = text;
        else if (inside == QStringLiteral("Record3/DataLink/MD5ChecksumPointData"))
            x3p_.checksum = text;
        else if (inside == QStringLiteral("Record3/DataLink/ValidPointsLink"))
            x3p_.valid_link = text;
        else if (inside == QStringLiteral("Record3/DataLink/MD5ChecksumValidPoints"))
            x3p_.valid_checksum = text;
        else if (inside == QStringLiteral("Record3/DataList/Datum"))
            x3p_.data << text;
        else if (inside == QStringLiteral("Record3/ListDimension") ||
                 inside == QStringLiteral("Record3/MatrixDimension/SizeX"))
            return whole(inside, text, x3p_.points);
        else if (inside == QStringLiteral("Record3/MatrixDimension/SizeY") ||
                 inside == QStringLiteral("Record3/MatrixDimension/SizeZ")) {
            qint64 size = 1;
            if (!whole(inside, text, size))
                return false;
            x3p_.lines *= std::min(size, most_points);
        } else if (path.size() == 5 && path[1] == QStringLiteral("Record1") && path[2] == QStringLiteral("Axes"))
            return take_axis(path[3], path[4], text);
        return true;
    }

    bool whole(const QString& where, const QString& text, qint64& into) {
        bool ok = false;
        into = text.toLongLong(&ok);
        return (ok && into > 0 && into <= most_points) ||
               fails(where.toStdString() + " is \"" + text.toStdString() + "\"", "a whole number from 1 to 10,000,000");
    }

    bool take_axis(const QString& name, const QString& key, const QString& text) {
        Axis* axis = name == QStringLiteral("CX")   ? &x3p_.x
                     : name == QStringLiteral("CY") ? &x3p_.y
                     : name == QStringLiteral("CZ") ? &x3p_.z
                                                    : nullptr;
        if (!axis)
            return true;
        const std::string where = "Record1/Axes/" + name.toStdString() + "/" + key.toStdString();
        const auto is = [&](const char* kinds) {
            return (text.size() == 1 && QString::fromLatin1(kinds).contains(text)) ||
                   fails(where + " is \"" + text.toStdString() + "\"", std::string("one letter of ") + kinds);
        };
        if (key == QStringLiteral("AxisType")) {
            if (!is("IA"))
                return false;
            axis->absolute = text == QStringLiteral("A");
        } else if (key == QStringLiteral("DataType")) {
            if (!is("ILFD"))
                return false;
            axis->type = text.front().toLatin1();
        } else if (key == QStringLiteral("Increment") || key == QStringLiteral("Offset")) {
            const auto number = block::finite_number(text.toStdString());
            if (!number)
                return fails(where + " is \"" + text.toStdString() + "\"", "a number of metres");
            (key == QStringLiteral("Increment") ? axis->increment : axis->offset) = *number;
        }
        return true;
    }

    bool gather() {
        if (x3p_.feature != QStringLiteral("PRF") && x3p_.lines > 1)
            return fails("it holds a surface (" + x3p_.feature.toStdString() + ") of " + std::to_string(x3p_.lines) +
                             " lines",
                         "one profile (PRF)");
        if (x3p_.lines > 1)
            return fails("it holds " + std::to_string(x3p_.lines) + " profiles", "one profile a file");
        if (x3p_.points == 0)
            return fails("main.xml does not say how many points there are",
                         "Record3 with ListDimension or MatrixDimension");
        return x3p_.link.isEmpty() ? gather_list() : gather_binary();
    }

    bool gather_list() {
        if (x3p_.data.size() != x3p_.points)
            return fails(std::to_string(x3p_.data.size()) + " points are listed of " + std::to_string(x3p_.points),
                         "a Datum for each");
        for (const QString& text : x3p_.data) {
            const QStringList numbers = text.split(QLatin1Char(';'), Qt::SkipEmptyParts);
            const auto z =
                numbers.isEmpty() ? std::nullopt : block::finite_number(numbers.back().trimmed().toStdString());
            const auto x = x3p_.x.absolute && numbers.size() > 1
                               ? block::finite_number(numbers.front().trimmed().toStdString())
                               : std::nullopt;
            if (!add(x, z))
                return false;
        }
        return true;
    }

    bool gather_binary() {
        const QByteArray bytes = linked(x3p_.link, x3p_.checksum);
        if (fault_)
            return false;
        QByteArray valid; // a bit for each point, the lowest first
        if (!x3p_.valid_link.isEmpty()) {
            valid = linked(x3p_.valid_link, x3p_.valid_checksum);
            if (fault_)
                return false;
            if (valid.size() * 8 < x3p_.points)
                return fails(x3p_.valid_link.toStdString() + " is too short", "a bit for each point");
        }
        const qsizetype before_z = (x3p_.x.absolute ? bytes_of(x3p_.x.type) : 0) +
                                   (x3p_.y.absolute ? bytes_of(x3p_.y.type) : 0),
                        each = before_z + bytes_of(x3p_.z.type);
        if (bytes.size() != each * x3p_.points)
            return fails(x3p_.link.toStdString() + " holds " + std::to_string(bytes.size()) + " bytes",
                         std::to_string(each * x3p_.points) + " for " + std::to_string(x3p_.points) + " points");
        for (qint64 i = 0; i < x3p_.points; ++i) {
            const char* at = bytes.constData() + i * each;
            const double z = number_at(at + before_z, x3p_.z.type);
            const bool measured = (valid.isEmpty() || (valid[i / 8] >> (i % 8) & 1) != 0) && std::isfinite(z);
            if (!add(x3p_.x.absolute ? std::optional(number_at(at, x3p_.x.type)) : std::nullopt,
                     measured ? std::optional(z) : std::nullopt))
                return false;
        }
        return true;
    }

    QByteArray linked(const QString& name, const QString& checksum) {
        const QByteArray bytes = part(name);
        if (!fault_ && !checksum.isEmpty() && md5(bytes) != checksum.trimmed().toLower().toLatin1())
            fault(name.toStdString() + " does not agree with its checksum", "an X3P file as it was written");
        return bytes;
    }

    /// @param x where each point has its own
    bool add(std::optional<double> x, std::optional<double> z) {
        const auto n = static_cast<double>(count_++);
        if (!z || (x3p_.x.absolute && !x))
            return fails("point " + std::to_string(count_) + " was not measured", "a height at every point");
        const double place = (x.value_or(n)) * x3p_.x.increment + x3p_.x.offset;
        lines_ += block::short_number(place * mm_per_m) + "," +
                  block::short_number((*z * x3p_.z.increment + x3p_.z.offset) * um_per_m) + "\n";
        return true;
    }

    block::Result<block::NamedText> written() {
        const QString name = QString::fromStdString(file_.file).simplified();
        block::NamedText trace{file_.file, "# pallix-trace: 1\n# from " + name.toStdString() + ", SHA-256 " +
                                               block::sha256_hex(file_.text) + "\nx,z\n" + lines_};
        constexpr int lines_before = 3;
        if (const auto read = block::read_trace(trace); !read) {
            block::Fault first = read.error().front();
            if (first.line > lines_before)
                first.what = "point " + std::to_string(first.line - lines_before) + ": " + first.what;
            return fault(first.what, first.expected);
        }
        return trace;
    }

    const block::NamedText& file_;
    std::unique_ptr<zip_t, decltype(&zip_discard)> zip_{nullptr, &zip_discard};
    Document x3p_;
    QString root_;
    std::optional<block::Fault> fault_;
    std::string lines_;
    qint64 count_ = 0;
};

} // namespace

bool is_x3p(const block::NamedText& file) {
    return file.text.starts_with("PK\x03\x04") ||
           QString::fromStdString(file.file).endsWith(QStringLiteral(".x3p"), Qt::CaseInsensitive);
}

block::Result<block::NamedText> trace_of_x3p(const block::NamedText& file) {
    return X3pReader(file).read();
}

} // namespace pallix::session
