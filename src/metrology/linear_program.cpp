// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/linear_program.h"

#include <glpk.h>
#include <memory>

namespace pallix::metrology {
namespace {

struct Delete {
    void operator()(glp_prob* problem) const { glp_delete_prob(problem); }
};

int kind_of(double lower, double upper) {
    if (lower == -LinearProgram::free)
        return upper == LinearProgram::free ? GLP_FR : GLP_UP;
    if (upper == LinearProgram::free)
        return GLP_LO;
    return lower == upper ? GLP_FX : GLP_DB;
}

} // namespace

std::size_t LinearProgram::add_variable(double lower, double upper) {
    bounds_.emplace_back(lower, upper);
    return bounds_.size() - 1;
}

void LinearProgram::add_row(std::vector<Term> terms, double upper) {
    rows_.push_back(std::move(terms));
    uppers_.push_back(upper);
}

std::optional<std::vector<double>> LinearProgram::minimise(const std::vector<Term>& form) const {
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
    glp_smcp control;
    glp_init_smcp(&control);
    control.msg_lev = GLP_MSG_OFF;
    control.meth = GLP_DUALP; // many rows, few variables
    control.tol_bnd = 1e-9;
    control.tol_dj = 1e-9;
    glp_adv_basis(p, 0);
    if (glp_simplex(p, &control) != 0 || glp_get_status(p) != GLP_OPT)
        return std::nullopt;
    std::vector<double> solution;
    for (std::size_t k = 0; k < bounds_.size(); ++k)
        solution.push_back(glp_get_col_prim(p, static_cast<int>(k + 1)));
    return solution;
}

} // namespace pallix::metrology
