#pragma once
#include <Eigen/Core>

#include "core/seam/panels.hpp"

namespace awl {

/// A flat panel follows where some of its vertices are moved: each other one moves by the weighted mean of its
/// neighbours' moves (mean of both cotangents of the flat triangles, never below a hundredth, so that no move leaves
/// the range of its neighbours'). `moves`: of each moved vertex x and y in turn, in as many columns as there are cases.
/// Answers the same of all vertices.
Eigen::MatrixXd followed(const Panel& panel, const std::vector<int>& moved, const Eigen::MatrixXd& moves);
/// With all of its border moved, in its order; rims of openings are free.
Eigen::MatrixXd followed_border(const Panel& panel, const Eigen::MatrixXd& moves);

}  // namespace awl
