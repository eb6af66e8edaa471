#include "core/head/landmarks.hpp"

#include <algorithm>

namespace awl {
namespace {

constexpr int kOnMidline = 13, kOnASide = 11;

struct Place {
  const char* name;
  double x, y, z;
};
constexpr Place kPlaces[kOnMidline + kOnASide] = {{"between the brows", 0, 32.2, 100.3},
    {"dip of the nose", 0, 16.8, 96.8}, {"tip of the nose", 0, -18.5, 117.6}, {"under the nose", 0, -31, 96.2},
    {"mouth", 0, -54.8, 101.2}, {"front of the chin", 0, -78.8, 96.9}, {"under the chin", 0, -98.6, 75},
    {"under the jaw", 0, -91.8, 56}, {"Adam's apple", 0, -118, 37.2}, {"crown", 0, 128.4, -5},
    {"back of the head", 0, 31, -97.7}, {"bump at the back", 0, -12, -82.7}, {"nape", 0, -50, -66.7},
    {"widest place", 76.2, 32.8, -9.9}, {"ear flap", 73.1, 2, 0}, {"ear top", 76.5, 32.8, -16.7},
    {"ear bottom", 73.6, -30.3, -9.3}, {"ear rim", 90.7, 14.9, -28.8}, {"behind the ear", 72.4, 14.9, -28.8},
    {"cheekbone", 70.3, -2.9, 34.7}, {"corner of the jaw", 58.2, -63.3, 11.9}, {"corner of the mouth", 23.8, -55, 91.1},
    {"pupil", 31.3, 12.5, 82.5}, {"wing of the nose", 17.9, -25.5, 92.4}};

}  // namespace

const std::array<Vec3, kLandmarkCount>& template_landmarks() {
  static const auto places = [] {
    std::array<Vec3, kLandmarkCount> all;
    for (int i = 0; i < kLandmarkCount; ++i) {
      const bool right = i >= kOnMidline + kOnASide;
      const Place& p = kPlaces[right ? i - kOnASide : i];
      all[i] = Vec3(right ? -p.x : p.x, p.y, p.z);
    }
    return all;
  }();
  return places;
}

const char* name_of(Landmark landmark) {
  const int i = static_cast<int>(landmark);
  return kPlaces[i >= kOnMidline + kOnASide ? i - kOnASide : i].name;
}

}  // namespace awl
