// SPDX-License-Identifier: GPL-3.0-or-later
// The program as a screen reader has it: started as a process of its own, on a display and a bus of its own, and asked
// through AT-SPI (libatspi), which knows nothing of how the window is made.
// Run it as tests/CMakeLists.txt does: dbus-run-session -- xvfb-run -a screen_reader_tests
#include "block/job_file.h"
#include "workshop/harbour.h"

#include <atspi/atspi.h>
#include <chrono>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <functional>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <memory>
#include <spawn.h>
#include <string>
#include <sys/wait.h>
#include <vector>

using namespace std::chrono_literals;
using testing::HasSubstr;

namespace {

struct Unref {
    void operator()(gpointer object) const { g_object_unref(object); }
};
using Node = std::unique_ptr<AtspiAccessible, Unref>;

/// What libatspi hands over belongs to who asked.
std::string text_of(gchar* owned) {
    const std::string text = owned ? owned : "";
    g_free(owned);
    return text;
}
std::string name_of(const Node& node) {
    return text_of(atspi_accessible_get_name(node.get(), nullptr));
}
AtspiRole role_of(const Node& node) {
    return atspi_accessible_get_role(node.get(), nullptr);
}
bool has(const Node& node, AtspiStateType state) {
    AtspiStateSet* states = atspi_accessible_get_state_set(node.get());
    const bool found = states && atspi_state_set_contains(states, state);
    if (states)
        g_object_unref(states);
    return found;
}
std::vector<Node> children_of(const Node& node) {
    std::vector<Node> children;
    const int count = atspi_accessible_get_child_count(node.get(), nullptr);
    for (int i = 0; i < count; ++i)
        if (AtspiAccessible* child = atspi_accessible_get_child_at_index(node.get(), i, nullptr))
            children.emplace_back(child);
    return children;
}

using Fits = std::function<bool(const Node&)>;

/// The first that fits, however deep, of what is on the screen.
Node find_below(const Node& from, const Fits& fits) {
    for (Node& child : children_of(from)) {
        if (fits(child))
            return std::move(child);
        if (role_of(child) != ATSPI_ROLE_MENU_BAR)
            if (Node found = find_below(child, fits))
                return found;
    }
    return nullptr;
}

/// Asks until there is an answer: the other process works in its own time.
template <class Ask>
auto wait_for(Ask ask) {
    const auto end = std::chrono::steady_clock::now() + 30s;
    auto answer = ask();
    while (!answer && std::chrono::steady_clock::now() < end) {
        while (g_main_context_iteration(nullptr, FALSE))
            ;
        g_usleep(50'000);
        answer = ask();
    }
    return answer;
}

bool press(const Node& node) {
    AtspiAction* action = atspi_accessible_get_action_iface(node.get());
    return action && atspi_action_do_action(action, 0, nullptr);
}

class ScreenReader : public testing::Test {
  protected:
    static void SetUpTestSuite() { ASSERT_LE(atspi_init(), 1); }

    void SetUp() override {
        home_ = std::filesystem::temp_directory_path() / ("pallix-reader-" + std::to_string(getpid()));
        std::filesystem::create_directories(home_);
        for (const char* name : {"XDG_CONFIG_HOME", "XDG_DATA_HOME"})
            setenv(name, home_.c_str(), 1);
        setenv("QT_QPA_PLATFORM", "xcb", 1);
        setenv("QT_LINUX_ACCESSIBILITY_ALWAYS_ON", "1", 1);
        const auto job = home_ / "port.pallix.json";
        std::ofstream(job) << pallix::block::write_job(pallix::workshop::harbour_jobs().at(1).entries);
        const std::string file = job.string();
        const std::string book = (home_ / "b.shopbook").string();
        std::vector<const char*> words{PALLIX_APP, "--book", book.c_str(), "--quit-after", "90", file.c_str(), nullptr};
        ASSERT_EQ(posix_spawn(&child_, PALLIX_APP, nullptr, nullptr, const_cast<char**>(words.data()), environ), 0);
        program_ = wait_for([this]() -> Node {
            const Node desktop(atspi_get_desktop(0));
            for (Node& app : children_of(desktop))
                if (atspi_accessible_get_process_id(app.get(), nullptr) == static_cast<guint>(child_))
                    return std::move(app);
            return nullptr;
        });
        ASSERT_TRUE(program_) << "the program is not on the bus";
    }
    void TearDown() override {
        program_.reset();
        kill(child_, SIGTERM);
        waitpid(child_, nullptr, 0);
        std::filesystem::remove_all(home_);
    }

    Node find(const Fits& fits) {
        return wait_for([&] { return find_below(program_, fits); });
    }
    Node find_named(const std::string& name, AtspiRole role) {
        return find([&](const Node& n) { return role_of(n) == role && name_of(n) == name; });
    }
    /// The first of its kind in which the name starts so.
    Node find_starting(const std::string& name) {
        return find([&](const Node& n) { return name_of(n).starts_with(name) && has(n, ATSPI_STATE_SHOWING); });
    }
    std::vector<Node> parts_of(const Node& drawing) {
        std::vector<Node> parts;
        for (Node& part : children_of(drawing))
            if (!name_of(part).empty())
                parts.push_back(std::move(part));
        return parts;
    }

    std::filesystem::path home_;
    pid_t child_ = 0;
    Node program_;
};

} // namespace

TEST_F(ScreenReader, HearsEveryFeatureOfTheBlockWithItsStateAndFindsIt) {
    const Node block = find_named("the block", ATSPI_ROLE_IMAGE);
    ASSERT_TRUE(block);
    const auto parts = parts_of(block);
    std::string all;
    int holes = 0;
    AtspiComponent* frame = atspi_accessible_get_component_iface(block.get());
    const std::unique_ptr<AtspiRect, decltype(&g_free)> room(
        atspi_component_get_extents(frame, ATSPI_COORD_TYPE_SCREEN, nullptr), g_free);
    for (const Node& part : parts) {
        const std::string name = name_of(part);
        all += name + "; ";
        holes += name.starts_with("cylinder ") ? 1 : 0;
        EXPECT_THAT(name, HasSubstr(", ")) << "says no state";
        const std::unique_ptr<AtspiRect, decltype(&g_free)> at(
            atspi_component_get_extents(atspi_accessible_get_component_iface(part.get()), ATSPI_COORD_TYPE_SCREEN,
                                        nullptr),
            g_free);
        ASSERT_TRUE(at && room) << name;
        EXPECT_GT(at->width, 0) << name;
        EXPECT_GE(at->x, room->x - 1) << name;
        EXPECT_LE(at->x + at->width, room->x + room->width + 1) << name;
        EXPECT_GE(at->y, room->y - 1) << name;
        EXPECT_LE(at->y + at->height, room->y + room->height + 1) << name;
    }
    EXPECT_EQ(holes, 6) << all;
    EXPECT_THAT(all, HasSubstr("main 1, meets"));
    EXPECT_THAT(all, HasSubstr("left bank deck, to be worked on"));
    const auto cylinder =
        std::ranges::find_if(parts, [](const Node& part) { return name_of(part).starts_with("cylinder 3"); });
    ASSERT_NE(cylinder, parts.end());
    ASSERT_TRUE(press(*cylinder)); // pointing leads on: to its page, where it is the one that is marked
    const Node bank = find([](const Node& n) {
        return role_of(n) == ATSPI_ROLE_IMAGE && has(n, ATSPI_STATE_SHOWING) && name_of(n) != "the block" &&
               !children_of(n).empty();
    });
    ASSERT_TRUE(bank);
    const bool marked = wait_for([&] {
        return std::ranges::any_of(parts_of(bank), [](const Node& part) {
            return name_of(part).starts_with("cylinder 3") && has(part, ATSPI_STATE_SELECTED);
        });
    });
    EXPECT_TRUE(marked);
}

TEST_F(ScreenReader, MovesTheCutLevelAsAValueAndHearsTheCall) {
    const Node call =
        find([](const Node& n) { return role_of(n) == ATSPI_ROLE_STATUS_BAR && name_of(n).starts_with("Left bank"); });
    ASSERT_TRUE(call) << "what to do now is said where a reader listens for it";
    static std::vector<std::string> said;
    said.clear();
    AtspiEventListener* ears = atspi_event_listener_new(
        [](AtspiEvent* event, void*) {
            said.push_back(text_of(atspi_accessible_get_name(event->source, nullptr)));
            g_boxed_free(ATSPI_TYPE_EVENT, event);
        },
        nullptr, nullptr);
    ASSERT_TRUE(atspi_event_listener_register(ears, "object:property-change:accessible-name", nullptr));

    const Node decks =
        find([](const Node& n) { return role_of(n) == ATSPI_ROLE_PUSH_BUTTON && name_of(n).starts_with("decks"); });
    ASSERT_TRUE(decks);
    ASSERT_TRUE(press(decks));
    const Node level = find([](const Node& n) {
        return role_of(n) == ATSPI_ROLE_SLIDER && name_of(n).starts_with("cut level") && has(n, ATSPI_STATE_SHOWING);
    });
    ASSERT_TRUE(level);
    AtspiValue* value = atspi_accessible_get_value_iface(level.get());
    ASSERT_NE(value, nullptr);
    const double least = atspi_value_get_minimum_value(value, nullptr),
                 most = atspi_value_get_maximum_value(value, nullptr), middle = (least + most) / 2;
    EXPECT_LT(least, most);
    ASSERT_TRUE(atspi_value_set_current_value(value, middle, nullptr));
    EXPECT_NEAR(atspi_value_get_current_value(value, nullptr), middle, 1);

    // The one cut that is called for is answered by its button: what comes next is heard.
    const Node cut = find([](const Node& n) {
        return role_of(n) == ATSPI_ROLE_PUSH_BUTTON && name_of(n) == "Cut" && has(n, ATSPI_STATE_SHOWING);
    });
    const Node everywhere = find_named("touched everywhere", ATSPI_ROLE_CHECK_BOX);
    ASSERT_TRUE(cut && everywhere);
    ASSERT_TRUE(press(everywhere));
    const std::string before = name_of(call);
    ASSERT_TRUE(press(cut));
    EXPECT_TRUE(wait_for([&] { return name_of(call) != before; }));
    EXPECT_TRUE(wait_for([&] { return std::ranges::find(said, name_of(call)) != said.end(); }))
        << "that it changed is told";
    atspi_event_listener_deregister(ears, "object:property-change:accessible-name", nullptr);
    g_object_unref(ears);
}
