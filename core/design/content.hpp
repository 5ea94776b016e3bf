#pragma once
#include "circuit/content.hpp"
#include "design/design.hpp"

/// What computations depend on in the parts of a document, as digests; what only people read is left out.
namespace elkit {

Digest content_digest(const std::vector<Block>& blocks);
Digest content_digest(const std::vector<Optic>& optics);
Digest content_digest(const std::vector<LightTrial>& trials);
Digest content_digest(const Brief& brief);  ///< without the purpose
Digest content_digest(const std::vector<Situation>& situations);
Digest content_digest(const std::vector<DayUse>& use);
Digest content_digest(const BoardChoices& choices);
Digest content_digest(const BatchChoices& choices);
Digest content_digest(const Face& face);
Digest content_digest(const std::vector<StepRecord>& records);
/// Readings that were taken at the bench; not ticks and notes.
Digest readings_digest(const std::vector<StepRecord>& records);

}  // namespace elkit
