#pragma once
#include "engine/cycles.hpp"
#include "engine/search.hpp"

/// What steady_state() makes of cycles: one of them recorded, or the means of many.
namespace elkit {

/// The cycle that begins now is recorded.
void begin_record(Search& search, Cycles& cycles, Steady& steady);
/// It is over: what follows from it.
void end_record(Search& search, Steady& steady);

/// Where cycles do not come out alike: many of them in batches, until the mean current of the batches is
/// known to a hundredth or the time is long enough for everything that was seen to have happened many times.
/// False if the mark is lost.
Result<bool> average_over_many(Search& search, Cycles& cycles, Steady& steady);

/// The same where something quick goes on beside something slower: over whole rounds of that, two at least,
/// and so many that it does not matter where within one of the quick cycles they end.
Result<bool> average_over_rounds(Search& search, Cycles& cycles, Steady& steady);

}  // namespace elkit
