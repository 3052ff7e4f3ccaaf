// SPDX-License-Identifier: GPL-3.0-or-later
// What the fuzzer runs, without a fuzzer: every seed and case that was found, and some hundreds of inputs spoilt from
// them, the same ones each time. Usage: replay_READER FOLDER SPOILT
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <exception>
#include <filesystem>
#include <fstream>
#include <iterator>
#include <random>
#include <set>
#include <string>
#include <vector>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size);

namespace {

constexpr std::size_t longest = 65536;

class Spoiler {
  public:
    explicit Spoiler(unsigned seed) : bits_(seed) {}

    std::string spoilt(std::string text, const std::string& other) {
        for (std::size_t times = 1 + below(4); times > 0; --times)
            spoil(text, other);
        text.resize(std::min(text.size(), longest));
        return text;
    }

  private:
    std::size_t below(std::size_t most) { return std::uniform_int_distribution<std::size_t>(0, most - 1)(bits_); }

    void spoil(std::string& text, const std::string& other) {
        static const std::vector<std::string> words{"1e999", "-0", "99999999999999999999", "\xFF\xFE", "\"", "[[[[[[[[",
                                                    "nan",   "0x", std::string(1, '\0'),   "\r",       ",",  "-"};
        const std::size_t at = below(text.size() + 1), length = std::min(text.size() - at, 1 + below(40));
        switch (below(6)) {
        case 0:
            if (at < text.size())
                text[at] = static_cast<char>(below(256));
            break;
        case 1:
            text.erase(at, length);
            break;
        case 2:
            text.insert(at, text.substr(at, length));
            break;
        case 3:
            text.insert(at, words[below(words.size())]);
            break;
        case 4:
            text.replace(at, length, words[below(words.size())]);
            break;
        default:
            text = text.substr(0, at) + other.substr(below(other.size() + 1));
        }
    }

    std::mt19937 bits_;
};

std::string current; ///< what is being read

/// Leaves what broke the reader where it can be taken up as a seed.
void leave_it() {
    std::ofstream("broken-input", std::ios::binary) << current;
    std::fprintf(stderr, "what broke it stands in the file broken-input\n");
    std::abort();
}

void run(const std::string& text) {
    current = text;
    LLVMFuzzerTestOneInput(reinterpret_cast<const std::uint8_t*>(text.data()), text.size());
}

} // namespace

int main(int argc, char** argv) {
    if (argc != 3)
        return 2;
    std::set_terminate(leave_it);
    std::set<std::filesystem::path> files;
    for (const auto& entry : std::filesystem::directory_iterator(argv[1]))
        files.insert(entry.path());
    std::vector<std::string> seeds;
    for (const auto& file : files) {
        std::ifstream in(file, std::ios::binary);
        seeds.emplace_back(std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>());
        run(seeds.back());
    }
    if (seeds.empty()) {
        std::fprintf(stderr, "no seeds in %s\n", argv[1]);
        return 1;
    }
    Spoiler spoiler(7);
    const int count = std::atoi(argv[2]);
    for (int i = 0; i < count; ++i) {
        const std::size_t one = static_cast<std::size_t>(i) % seeds.size();
        run(spoiler.spoilt(seeds[one], seeds[(one + 1) % seeds.size()]));
    }
    std::printf("%zu seeds, %d spoilt\n", seeds.size(), count);
}
