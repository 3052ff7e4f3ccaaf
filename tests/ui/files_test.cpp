// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/files.h"

#include <QFile>
#include <QTemporaryDir>
#include <gtest/gtest.h>

using namespace pallix::ui;

TEST(Files, AreKnownByTheirEnding) {
    EXPECT_EQ(kind_of_file(QStringLiteral("a.pallix-blueprint.json")), FileKind::blueprint);
    EXPECT_EQ(kind_of_file(QStringLiteral("A.PALLIX.JSON")), FileKind::job);
    EXPECT_EQ(kind_of_file(QStringLiteral("/x/probe.csv")), FileKind::probe_log);
    EXPECT_EQ(kind_of_file(QStringLiteral("notes.json")), FileKind::other);
}

TEST(Files, AreReadUnderTheirOwnName) {
    const QTemporaryDir folder;
    QFile file(folder.filePath(QStringLiteral("a.csv")));
    ASSERT_TRUE(file.open(QIODevice::WriteOnly));
    file.write("a\r\nb");
    file.close();
    const auto text = read_text_file(file.fileName());
    ASSERT_TRUE(text);
    EXPECT_EQ(text->file, "a.csv");
    EXPECT_EQ(text->text, "a\r\nb");
    EXPECT_NE(read_text_file(folder.filePath(QStringLiteral("b.csv")))
                  .error()
                  .front()
                  .text()
                  .find("b.csv: the file cannot be read"),
              std::string::npos);
    EXPECT_FALSE(read_text_file(QString()));
}
