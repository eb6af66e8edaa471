#include "core/geom/mesh.hpp"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <map>

#include "core/base/numbers.hpp"
#include "core/base/result.hpp"

namespace awl {

double corner_angle(const Vec3& at, const Vec3& p, const Vec3& q) {
  const Vec3 u = p - at, w = q - at;
  return std::atan2(u.cross(w).norm(), u.dot(w));
}

Vec3 closest_weights(const Vec3& p, const Vec3& a, const Vec3& b, const Vec3& c) {
  const Vec3 ab = b - a, ac = c - a, ap = p - a;
  const double d1 = ab.dot(ap), d2 = ac.dot(ap);
  if (d1 <= 0 && d2 <= 0) return {1, 0, 0};
  const Vec3 bp = p - b;
  const double d3 = ab.dot(bp), d4 = ac.dot(bp);
  if (d3 >= 0 && d4 <= d3) return {0, 1, 0};
  const double vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0 && d1 > d3) return {1 - d1 / (d1 - d3), d1 / (d1 - d3), 0};
  const Vec3 cp = p - c;
  const double d5 = ab.dot(cp), d6 = ac.dot(cp);
  if (d6 >= 0 && d5 <= d6) return {0, 0, 1};
  const double vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0 && d2 > d6) return {1 - d2 / (d2 - d6), 0, d2 / (d2 - d6)};
  const double va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0 && (d4 - d3) + (d5 - d6) > 0) {
    const double w = (d4 - d3) / ((d4 - d3) + (d5 - d6));
    return {0, 1 - w, w};
  }
  const double sum = va + vb + vc;
  if (sum == 0.0) return {1, 0, 0};
  return {va / sum, vb / sum, vc / sum};
}

Box box_of(const std::vector<Vec3>& points) {
  Box box;
  for (const Vec3& p : points) box.include(p);
  return box;
}

Vec3 area_vector(const Mesh& mesh, const Tri& t) {
  const Vec3& a = mesh.vertices[t[0]];
  return (mesh.vertices[t[1]] - a).cross(mesh.vertices[t[2]] - a);
}

double area_mm2(const Mesh& mesh) {
  double sum = 0.0;
  for (const Tri& t : mesh.triangles) sum += 0.5 * area_vector(mesh, t).norm();
  return sum;
}

double volume_mm3(const Mesh& mesh) {
  double sum = 0.0;
  for (const Tri& t : mesh.triangles) sum += mesh.vertices[t[0]].dot(area_vector(mesh, t)) / 6.0;
  return sum;
}

std::vector<Vec3> vertex_normals(const Mesh& mesh) {
  std::vector<Vec3> normals(mesh.vertices.size(), Vec3::Zero());
  for (const Tri& t : mesh.triangles) {
    const Vec3 n = area_vector(mesh, t).normalized();
    for (int k = 0; k < 3; ++k) {
      const Vec3 &p = mesh.vertices[t[k]], &q = mesh.vertices[t[(k + 1) % 3]], &r = mesh.vertices[t[(k + 2) % 3]];
      normals[t[k]] += corner_angle(p, q, r) * n;
    }
  }
  for (Vec3& n : normals) n.normalize();
  return normals;
}

double smallest_angle_deg(const Mesh& mesh) {
  // The smallest angle lies between the two longest edges: sin = 2 area / (their product).
  double least_squared_sine = 1.0;
  for (const Tri& t : mesh.triangles) {
    const Vec3 &a = mesh.vertices[t[0]], &b = mesh.vertices[t[1]], &c = mesh.vertices[t[2]];
    const double ab = (b - a).squaredNorm(), bc = (c - b).squaredNorm(), ca = (a - c).squaredNorm();
    const double longest_two = ab * bc * ca / std::min({ab, bc, ca});
    least_squared_sine = std::min(least_squared_sine, (b - a).cross(c - a).squaredNorm() / longest_two);
  }
  return degrees(std::asin(std::sqrt(least_squared_sine)));
}

Rows faces_round(const Mesh& mesh) {
  return {mesh.vertices.size(), [&](const auto& put) {
            for (std::size_t f = 0; f < mesh.triangles.size(); ++f)
              for (const int v : mesh.triangles[f]) put(v, static_cast<int>(f));
          }};
}

Topology topology_of(const Mesh& mesh) {
  const std::size_t n = mesh.vertices.size();
  Topology topo;
  topo.edges_of.resize(mesh.triangles.size());
  topo.faces_round = faces_round(mesh);
  topo.edges.reserve(mesh.triangles.size() * 3 / 2 + 64);
  // Every edge hangs in a chain on its lower vertex; the chains are as short as a vertex has neighbours.
  std::vector<int> first(n, -1), next;
  next.reserve(topo.edges.capacity());
  for (int f = 0; f < static_cast<int>(mesh.triangles.size()); ++f) {
    const Tri& t = mesh.triangles[f];
    for (int k = 0; k < 3; ++k) {
      const int low = std::min(t[k], t[(k + 1) % 3]), high = std::max(t[k], t[(k + 1) % 3]);
      int e = first[low];
      while (e >= 0 && topo.edges[e].b != high) e = next[e];
      if (e < 0) {
        e = static_cast<int>(topo.edges.size());
        topo.edges.push_back({low, high, f, -1, 0});
        next.push_back(first[low]);
        first[low] = e;
      } else if (topo.edges[e].right < 0) {
        topo.edges[e].right = f;
      } else {
        ++topo.edges[e].more;
      }
      topo.edges_of[f][k] = e;
    }
  }
  return topo;
}

namespace {

/// Sides that no other triangle has, in the order of the triangles: what topology_of calls a border, sooner.
std::vector<std::pair<int, int>> lone_sides(const Mesh& mesh) {
  struct Side {
    int from, to, times, next;
  };
  std::vector<Side> sides;
  sides.reserve(mesh.triangles.size() * 3 / 2 + 64);
  std::vector<int> first(mesh.vertices.size(), -1);
  for (const Tri& t : mesh.triangles)
    for (int k = 0; k < 3; ++k) {
      const int from = t[k], to = t[(k + 1) % 3];
      int& head = first[std::min(from, to)];
      int s = head;
      while (s >= 0 && std::max(sides[s].from, sides[s].to) != std::max(from, to)) s = sides[s].next;
      if (s >= 0) {
        ++sides[s].times;
        continue;
      }
      sides.push_back({from, to, 1, head});
      head = static_cast<int>(sides.size()) - 1;
    }
  std::vector<std::pair<int, int>> lone;
  for (const Side& s : sides)
    if (s.times == 1) lone.emplace_back(s.from, s.to);
  return lone;
}

}  // namespace

std::vector<std::vector<int>> border_loops(const Mesh& mesh) {
  std::map<int, std::vector<int>> next;
  for (const auto& [from, to] : lone_sides(mesh)) next[from].push_back(to);
  std::vector<std::vector<int>> loops;
  while (!next.empty()) {
    std::vector<int> loop;
    for (int v = next.begin()->first; next.count(v) != 0;) {
      loop.push_back(v);
      auto& ways = next[v];
      const int to = ways.back();
      ways.pop_back();
      if (ways.empty()) next.erase(v);
      v = to;
    }
    loops.push_back(std::move(loop));
  }
  return loops;
}

int euler_characteristic(const Mesh& mesh) {
  const Topology topo = topology_of(mesh);
  int used = 0;
  for (int v = 0; v < static_cast<int>(mesh.vertices.size()); ++v) used += topo.faces_round[v].empty() ? 0 : 1;
  return used - static_cast<int>(topo.edges.size()) + static_cast<int>(mesh.triangles.size());
}

std::vector<int> connected_parts(const Mesh& mesh, const std::function<bool(int, int)>& joined) {
  const Topology topo = topology_of(mesh);
  std::vector<int> part(mesh.triangles.size(), -1);
  int count = 0;
  for (std::size_t seed = 0; seed < part.size(); ++seed) {
    if (part[seed] >= 0) continue;
    std::vector<int> todo{static_cast<int>(seed)};
    part[seed] = count;
    while (!todo.empty()) {
      const int f = todo.back();
      todo.pop_back();
      for (const int e : topo.edges_of[f]) {
        const auto& edge = topo.edges[e];
        const int other = edge.left == f ? edge.right : edge.left;
        if (other < 0 || part[other] >= 0 || !joined(edge.a, edge.b)) continue;
        part[other] = count;
        todo.push_back(other);
      }
    }
    ++count;
  }
  return part;
}

Mesh part_of(const Mesh& mesh, const std::vector<int>& triangles, std::vector<int>& vertex_of) {
  Mesh part;
  vertex_of.clear();
  std::vector<int> fresh(mesh.vertices.size(), -1);
  for (const int f : triangles) {
    Tri t = mesh.triangles[f];
    for (int& v : t) {
      if (fresh[v] < 0) {
        fresh[v] = static_cast<int>(part.vertices.size());
        part.vertices.push_back(mesh.vertices[v]);
        vertex_of.push_back(v);
      }
      v = fresh[v];
    }
    part.triangles.push_back(t);
  }
  return part;
}

Mirrored mirror_half(const Mesh& half, double snap_mm) {
  Mirrored whole;
  whole.mesh = half;
  whole.twin_of.resize(half.vertices.size());
  for (std::size_t v = 0; v < half.vertices.size(); ++v) {
    Vec3& p = whole.mesh.vertices[v];
    whole.twin_of[v] = static_cast<int>(v);
    if (std::abs(p.x()) < snap_mm) {
      p.x() = 0.0;
      continue;
    }
    whole.twin_of[v] = static_cast<int>(whole.mesh.vertices.size());
    const Vec3 image(-p.x(), p.y(), p.z());  // p is a reference that push_back may move
    whole.mesh.vertices.push_back(image);
    whole.twin_of.push_back(static_cast<int>(v));
  }
  for (const Tri& t : half.triangles)
    whole.mesh.triangles.push_back({whole.twin_of[t[0]], whole.twin_of[t[2]], whole.twin_of[t[1]]});
  return whole;
}

}  // namespace awl
