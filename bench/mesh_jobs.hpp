#pragma once

namespace awl::bench {

/// A scan of 2 million triangles, from the bytes of its file to what foam can show; once each, and the most memory so
/// far.
void mesh_jobs();

}  // namespace awl::bench
