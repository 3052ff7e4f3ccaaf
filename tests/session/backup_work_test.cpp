// SPDX-License-Identifier: GPL-3.0-or-later
// The shop book is copied by itself: where something was written, and what goes wrong is told once.
#include "session/backup_work.h"
#include "session_fixture.h"

#include <QSignalSpy>

using namespace pallix;
using namespace pallix::session;

using BackupWorkTest = test::SessionFixture;

TEST_F(BackupWorkTest, CopiesWhatWasWritten) {
    BackupWork work(*book_);
    QSignalSpy made(&work, &BackupWork::made), failed(&work, &BackupWork::failed);
    work.make_at_close();
    EXPECT_TRUE(made.isEmpty()) << "there is nothing to lose yet";
    open_small_job();
    work.make();
    EXPECT_TRUE(work.running()) << "away from the window's thread";
    work.make_at_close();
    ASSERT_EQ(made.size(), 1);
    EXPECT_TRUE(failed.isEmpty());
    const auto copy = storage::ShopBook::open(made[0][0].toString());
    ASSERT_TRUE(copy) << copy.error().what.toStdString();
    EXPECT_EQ((*copy)->jobs()->size(), book_->jobs()->size());
    EXPECT_EQ(work.backups().kept().size(), 1U);
}

TEST_F(BackupWorkTest, WhatGoesWrongIsToldOnceUntilItWorksAgain) {
    open_small_job();
    const QString folder = QFileInfo(book_->file()).path() + QStringLiteral("/backups");
    QFile in_the_way(folder); // a file where the folder should be
    ASSERT_TRUE(in_the_way.open(QIODevice::WriteOnly));
    in_the_way.close();
    BackupWork work(*book_);
    QSignalSpy made(&work, &BackupWork::made), failed(&work, &BackupWork::failed);
    work.make_at_close();
    work.make_at_close();
    ASSERT_EQ(failed.size(), 1);
    EXPECT_TRUE(failed[0][0].toString().contains(QStringLiteral("cannot be made")))
        << failed[0][0].toString().toStdString();
    ASSERT_TRUE(in_the_way.remove());
    work.make_at_close();
    EXPECT_EQ(made.size(), 1);
}
