// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/without_noise.h"

#include "metrology/monte_carlo.h"

#include <Eigen/Eigenvalues>
#include <Eigen/QR>
#include <algorithm>
#include <cmath>
#include <span>

namespace pallix::metrology {
namespace {

using Eigen::Index;
using Eigen::MatrixXd;
using Eigen::VectorXd;

/// Sizes that form may have, against the noise: doubled from one to the next up to a quarter of a millimetre, each as
/// likely beforehand as the other. Less than the least is none; more than the largest is hardly shrunk any more.
constexpr double least_size = 0.06, most_form = 0.25; ///< of the noise; mm
constexpr int own_steps = 7;
constexpr double no_form = 6, none_of_its_own = 24; ///< how much likelier none is than any one size
constexpr double some_feature = 1;                  ///< how likely one of the features is, against none
constexpr double negligible = 1e-3;                 ///< weight of a choice beside the best

std::vector<double> sizes_of_form(double noise) {
    std::vector<double> sizes{0, least_size * noise};
    while (sizes.back() < most_form)
        sizes.push_back(2 * sizes.back());
    return sizes;
}

VectorXd normals(Deviates& d, Index n) {
    VectorXd z(n);
    for (double& x : z)
        x = d.normal();
    return z;
}

} // namespace

MatrixXd matern(const MatrixXd& distance, double length) {
    const Eigen::ArrayXXd r = distance.array() * (std::sqrt(5.0) / length);
    return (1 + r + r.square() / 3) * (-r).exp();
}

WithoutNoise::WithoutNoise(const NoisyValues& noisy) : noise_(noisy.noise), features_of_(noisy.features_of) {
    const Index n = noisy.values.size(), p = noisy.free.cols();
    const MatrixXd q = Eigen::HouseholderQR<MatrixXd>(noisy.free).householderQ() * MatrixXd::Identity(n, n);
    free_ = q.leftCols(p);
    if (n == p)
        return;
    const MatrixXd rest = q.rightCols(n - p);
    for (const MatrixXd& shape : noisy.shapes) {
        const Eigen::SelfAdjointEigenSolver<MatrixXd> own(rest.transpose() * shape * rest);
        Ways ways{rest * own.eigenvectors(), {}, {}};
        ways.found = ways.patterns.transpose() * noisy.values;
        ways.features =
            noisy.features.size() > 0 ? MatrixXd(ways.patterns.transpose() * noisy.features) : MatrixXd(n - p, 0);
        ways_.push_back(std::move(ways));
        weigh(own.eigenvalues().array().max(0.0));
    }
    keep_the_likely();
}

double draw_without_noise(double value, double drawn, double noise, Deviates& deviates) {
    // Of a size that it may have the share kept is size²/(size² + noise²); sizes weighed by how well they explain it.
    std::vector<std::pair<double, double>> shares; // weights so far, share
    double sum = 0;
    for (double size = 0; size < 2 * most_form; size = size == 0 ? noise / 4 : 2 * size) {
        const double all = size * size + noise * noise;
        sum += (size == 0 ? no_form : 1) * std::exp(-value * value / (2 * all)) / std::sqrt(all);
        shares.emplace_back(sum, size * size / all);
    }
    const double at = sum * deviates.uniform();
    const auto picked = std::ranges::lower_bound(shares, at, {}, &std::pair<double, double>::first);
    const double share = picked == shares.end() ? shares.back().second : picked->second;
    return share * value + std::sqrt(share) * (drawn - value);
}

void WithoutNoise::weigh(const Eigen::ArrayXd& variances) {
    const std::vector<double> sizes = sizes_of_form(noise_);
    const Eigen::ArrayXd squares = ways_.back().found.array().square();
    for (const double form : sizes)
        for (const double each : std::span(sizes).first(own_steps)) {
            const Eigen::ArrayXd truth = form * form * variances + each * each;
            const Eigen::ArrayXd all = truth + noise_ * noise_;
            double evidence = -0.5 * (all.log() + squares / all).sum();
            evidence += form == 0 ? std::log(no_form) : 0;
            evidence += each == 0 ? std::log(none_of_its_own) : 0;
            sizes_.push_back({ways_.size() - 1, truth / all, evidence});
            offer({sizes_.size() - 1, -1, 0, 0, evidence, 0});
            weigh_features(sizes_.size() - 1);
        }
}

/// With a feature whose height is normal about 0: its evidence and its height in closed form.
void WithoutNoise::weigh_features(std::size_t at) {
    const Sizes& sizes = sizes_[at];
    const Ways& ways = ways_[sizes.shape];
    const Index count = ways.features.cols();
    if (count == 0)
        return;
    const VectorXd precision = (1 - sizes.kept.array()) / (noise_ * noise_);
    const VectorXd weighted = precision.cwiseProduct(ways.found);
    constexpr int heights = 4;
    const double prior = std::log(some_feature / std::max(features_of_, static_cast<double>(count)) / heights);
    for (Index f = 0; f < count; ++f) {
        const double told = ways.features.col(f).cwiseAbs2().dot(precision), seen = ways.features.col(f).dot(weighted);
        for (double height = 2 * noise_, i = 0; i < heights; height *= 4, ++i) {
            const double known = 1 / (height * height) + told;
            const double evidence =
                sizes.evidence + prior - 0.5 * std::log(known * height * height) + 0.5 * seen * seen / known;
            offer({at, f, seen / known, 1 / std::sqrt(known), evidence, 0});
        }
    }
}

/// Kept as long as it may count beside the best so far: of all there are hundreds of thousands.
void WithoutNoise::offer(const Choice& choice) {
    best_ = std::max(best_, choice.evidence);
    if (choice.evidence > best_ + std::log(negligible))
        choices_.push_back(choice);
}

void WithoutNoise::keep_the_likely() {
    std::erase_if(choices_, [this](const Choice& c) { return c.evidence < best_ + std::log(negligible); });
    double sum = 0;
    for (Choice& c : choices_)
        c.upto = sum += std::exp(c.evidence - best_);
    for (Choice& c : choices_)
        c.upto /= sum;
}

VectorXd WithoutNoise::draw_beside(Deviates& deviates) const {
    if (choices_.empty())
        return VectorXd::Zero(free_.rows());
    const auto picked = std::ranges::lower_bound(choices_, deviates.uniform(), {}, &Choice::upto);
    const Choice& choice = picked == choices_.end() ? choices_.back() : *picked;
    const Sizes& sizes = sizes_[choice.sizes];
    const Ways& ways = ways_[sizes.shape];
    VectorXd wave = ways.found;
    if (choice.feature >= 0)
        wave -= (choice.height + choice.height_spread * deviates.normal()) * ways.features.col(choice.feature);
    return ways.patterns * (noise_ * sizes.kept.cwiseSqrt().cwiseProduct(normals(deviates, wave.size())) -
                            (1 - sizes.kept.array()).matrix().cwiseProduct(wave));
}

VectorXd WithoutNoise::draw(Deviates& deviates) const {
    return noise_ * (free_ * normals(deviates, free_.cols())) + draw_beside(deviates);
}

} // namespace pallix::metrology
