// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/named_text.h"
#include "block/unnamed/named_log.h"
#include "ui/context.h"

#include <QDialog>
#include <QStringList>
#include <map>
#include <optional>
#include <string>
#include <vector>

class QCheckBox;
class QComboBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QPushButton;

namespace pallix::ui {

class FaultList;
class PlainTable;
class TouchPicture;

/// A probe log of another form: how it was understood, on its first rows; what is not known is asked for. Touches
/// without names are shown where they lie, with what each hole and face is taken for, and corrected by pointing. How it
/// is read is kept by name and offered with the next one.
class LogAssistant : public QDialog {
    Q_OBJECT
  public:
    /// @param blueprint that touches without names are laid on; nothing where there is none yet
    LogAssistant(Context context, block::NamedText log, std::optional<block::Blueprint> blueprint,
                 QWidget* parent = nullptr);
    void accept() override;
    [[nodiscard]] std::string converted() const { return look_.converted ? look_.converted->log : std::string(); }
    [[nodiscard]] const block::LogMapping& mapping() const { return mapping_; }
    bool eventFilter(QObject* watched, QEvent* event) override; ///< Enter in a run's name takes the name, not the log

  private:
    void build();
    void begin();
    void propose();
    void try_what_is_kept();
    void show_look();
    void show_asks();
    void ask_for_turns();
    void take_asks();
    void name_by_place();
    void show_group(std::size_t group);
    void take_group_name();

    Context context_;
    block::NamedText log_;
    std::optional<block::Blueprint> blueprint_;
    block::LogMapping asked_, mapping_; ///< as it was stated, and with the names that were found
    block::LogLook look_;
    std::optional<block::NamedLog> named_; ///< where names are told by places
    std::map<std::size_t, std::optional<block::FeatureId>> pointed_;
    bool decided_ = false; ///< the person said whether names are found by places
    QString mirrored_;     ///< that y was turned round; empty where it was not
    QString checked_;      ///< how well a program that was kept fits this log
    QLabel* words_;
    PlainTable* table_;
    TouchPicture* picture_;
    QFormLayout* asks_;
    std::map<std::string, QComboBox*> columns_;  ///< of those that are not known
    std::map<std::string, QLineEdit*> features_; ///< by their names' patterns
    std::map<std::string, QLineEdit*> turns_;    ///< by set-up
    QCheckBox* by_place_;
    QLineEdit* group_;
    QComboBox* unit_;
    QLineEdit* name_;
    FaultList* faults_;
    QPushButton* take_ = nullptr;
};

} // namespace pallix::ui
