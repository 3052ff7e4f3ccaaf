// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/linear_program.h"

#include <glpk.h>
#include <memory>

namespace pallix::metrology {
namespace {

struct Delete {
    void operator()(glp_prob* problem) const { glp_delete_prob(problem); }
};

/// GLPK keeps an environment for each thread that calls it, and frees it when it is told to.
struct Environment {
    Environment() = default;
    Environment(const Environment&) = delete;
    Environment& operator=(const Environment&) = delete;
    ~Environment() { glp_free_env(); }
};

int kind_of(double lower, double upper) {
    if (lower == -LinearProgram::free)
        return upper == LinearProgram::free ? GLP_FR : GLP_UP;
    if (upper == LinearProgram::free)
        return GLP_LO;
    return lower == upper ? GLP_FX : GLP_DB;
}

enum class Outcome { optimal, none, gave_up };

Outcome simplex(glp_prob* p, int method) {
    glp_smcp control;
    glp_init_smcp(&control);
    control.msg_lev = GLP_MSG_OFF;
    control.meth = method;
    control.tol_bnd = 1e-9;
    control.tol_dj = 1e-9;
    control.it_lim = 100000;
    if (glp_simplex(p, &control) != 0)
        return Outcome::gave_up;
    const int status = glp_get_status(p);
    return status == GLP_OPT                             ? Outcome::optimal
           : status == GLP_NOFEAS || status == GLP_UNBND ? Outcome::none
                                                         : Outcome::gave_up;
}

Outcome in_exact_arithmetic(glp_prob* p) {
    glp_smcp control;
    glp_init_smcp(&control);
    control.msg_lev = GLP_MSG_OFF;
    control.it_lim = 2000;
    if (glp_exact(p, &control) != 0)
        return Outcome::gave_up;
    return glp_get_status(p) == GLP_OPT ? Outcome::optimal : Outcome::none;
}

std::vector<double> variables_of(glp_prob* p, double (*value)(glp_prob*, int)) {
    std::vector<double> solution;
    for (int k = 1; k <= glp_get_num_cols(p); ++k)
        solution.push_back(value(p, k));
    return solution;
}

std::optional<std::vector<double>> solve(glp_prob* p) {
    glp_adv_basis(p, 0);
    if (simplex(p, GLP_DUALP) == Outcome::optimal) // many rows, few variables
        return variables_of(p, glp_get_col_prim);
    glp_scale_prob(p, GLP_SF_AUTO);
    glp_std_basis(p);
    if (simplex(p, GLP_PRIMAL) == Outcome::optimal)
        return variables_of(p, glp_get_col_prim);
    return std::nullopt;
}

std::optional<std::vector<double>> solve_exactly(glp_prob* p) {
    glp_std_basis(p);
    switch (in_exact_arithmetic(p)) {
    case Outcome::optimal:
        return variables_of(p, glp_get_col_prim);
    case Outcome::none:
        return std::nullopt;
    case Outcome::gave_up:
        break;
    }
    glp_iptcp control;
    glp_init_iptcp(&control);
    control.msg_lev = GLP_MSG_OFF;
    if (glp_interior(p, &control) != 0 || glp_ipt_status(p) != GLP_OPT)
        return std::nullopt;
    return variables_of(p, glp_ipt_col_prim);
}

} // namespace

std::size_t LinearProgram::add_variable(double lower, double upper) {
    bounds_.emplace_back(lower, upper);
    return bounds_.size() - 1;
}

void LinearProgram::add_row(std::vector<Term> terms, double upper) {
    if (upper == free)
        return;
    rows_.push_back(std::move(terms));
    uppers_.push_back(upper);
}

template <class Solve>
std::optional<std::vector<double>> LinearProgram::with_problem(const std::vector<Term>& form, Solve solve) const {
    thread_local const Environment until_the_thread_ends;
    glp_term_out(GLP_OFF); // standard output belongs to the program
    const std::unique_ptr<glp_prob, Delete> problem(glp_create_prob());
    glp_prob* p = problem.get();
    glp_set_obj_dir(p, GLP_MIN);
    glp_add_cols(p, static_cast<int>(bounds_.size()));
    for (std::size_t k = 0; k < bounds_.size(); ++k) {
        const auto [lower, upper] = bounds_[k];
        glp_set_col_bnds(p, static_cast<int>(k + 1), kind_of(lower, upper), lower, upper);
    }
    for (const auto& [variable, coefficient] : form)
        glp_set_obj_coef(p, static_cast<int>(variable + 1), coefficient);
    if (!rows_.empty())
        glp_add_rows(p, static_cast<int>(rows_.size()));
    std::vector<int> columns;
    std::vector<double> values;
    for (std::size_t i = 0; i < rows_.size(); ++i) {
        columns.assign(1, 0); // GLPK counts from 1
        values.assign(1, 0);
        for (const auto& [variable, coefficient] : rows_[i]) {
            columns.push_back(static_cast<int>(variable + 1));
            values.push_back(coefficient);
        }
        const int row = static_cast<int>(i + 1);
        glp_set_mat_row(p, row, static_cast<int>(columns.size()) - 1, columns.data(), values.data());
        glp_set_row_bnds(p, row, GLP_UP, 0, uppers_[i]);
    }
    return solve(p);
}

std::optional<std::vector<double>> LinearProgram::minimise(const std::vector<Term>& form) const {
    return with_problem(form, solve);
}

std::optional<std::vector<double>> LinearProgram::minimise_exactly(const std::vector<Term>& form) const {
    return with_problem(form, solve_exactly);
}

} // namespace pallix::metrology
