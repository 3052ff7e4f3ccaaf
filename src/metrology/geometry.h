// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>

namespace pallix::metrology {

/// A point or direction in a measuring plane, mm.
struct Vec2 {
    double x = 0;
    double y = 0;
    bool operator==(const Vec2&) const = default;
};

/// A point or direction in space, mm.
struct Vec3 {
    double x = 0;
    double y = 0;
    double z = 0;
};

constexpr Vec2 operator+(Vec2 a, Vec2 b) {
    return {a.x + b.x, a.y + b.y};
}
constexpr Vec2 operator-(Vec2 a, Vec2 b) {
    return {a.x - b.x, a.y - b.y};
}
constexpr Vec2 operator*(double s, Vec2 a) {
    return {s * a.x, s * a.y};
}
constexpr double dot(Vec2 a, Vec2 b) {
    return a.x * b.x + a.y * b.y;
}
constexpr double cross(Vec2 a, Vec2 b) {
    return a.x * b.y - a.y * b.x;
}
inline double norm(Vec2 a) {
    return std::sqrt(dot(a, a));
}

constexpr Vec3 operator+(Vec3 a, Vec3 b) {
    return {a.x + b.x, a.y + b.y, a.z + b.z};
}
constexpr Vec3 operator-(Vec3 a, Vec3 b) {
    return {a.x - b.x, a.y - b.y, a.z - b.z};
}
constexpr Vec3 operator-(Vec3 a) {
    return {-a.x, -a.y, -a.z};
}
constexpr Vec3 operator*(double s, Vec3 a) {
    return {s * a.x, s * a.y, s * a.z};
}
constexpr double dot(Vec3 a, Vec3 b) {
    return a.x * b.x + a.y * b.y + a.z * b.z;
}
constexpr Vec3 cross(Vec3 a, Vec3 b) {
    return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}
inline double norm(Vec3 a) {
    return std::sqrt(dot(a, a));
}
/// @param a not zero
inline Vec3 unit(Vec3 a) {
    return (1.0 / norm(a)) * a;
}
/// @param axis unit length
/// @return the part of a at right angles to the axis
constexpr Vec3 perpendicular(Vec3 a, Vec3 axis) {
    return a - dot(a, axis) * axis;
}

/// Two unit directions that span the plane at right angles to an axis, right-handed with it.
struct PlaneBasis {
    Vec3 first;
    Vec3 second;
    constexpr Vec2 project(Vec3 p) const { return {dot(p, first), dot(p, second)}; }
};

/// @param axis unit length
inline PlaneBasis plane_basis(Vec3 axis) {
    const Vec3 helper = std::abs(axis.x) < 0.9 ? Vec3{1, 0, 0} : Vec3{0, 1, 0};
    const Vec3 first = unit(cross(axis, helper));
    return {first, cross(axis, first)};
}

} // namespace pallix::metrology
