#pragma once
#include <optional>
#include <string>
#include <vector>

#include "design/design.hpp"
#include "recipes/recipe.hpp"

/// Recipes at work in a design: each block owns the parts that its recipe placed. Running one again touches
/// only these and keeps what was set by hand.
namespace elkit {

/// The goals of a block as they stand: those that parts say are read from the parts.
Goals goals_of(const Design& design, const Block& block);

/// What blocks say that cannot be: goals of the wrong type or out of range, parts that are not there or that
/// two own. Each error has its place in the file. Goals are then taken at their limit or their usual value.
std::vector<Error> block_errors(const Design& design);

/// The design with the block's recipe run for these goals, and those that build on what it changed run again.
/// Values of a drawer are then known as set by hand. Errors: no such block or recipe; those of sizing;
/// a goal outside its declared range or choices.
Result<Design> with_goals(const Design& design, std::size_t block, const Goals& goals,
                          const Environment& environment = {});
/// One goal changed. Errors as with_goals().
Result<Design> with_goal(const Design& design, std::size_t block, const std::string& key,
                         const ParamValue& value);

/// Nets of a recipe by which it hangs on others: its own name of the net → the design's.
using Joins = std::map<std::string, std::string>;

/// A design with one more block, its recipe run. A source that the design has is used, not doubled, whatever
/// the goals say of it; behind its main switch where the recipe wants that, which may ask for cells. With
/// `joins` the goals say so. Errors: those of sizing; a net that the recipe does not take, or that is not
/// there.
Result<Design> with_block(const Design& design, std::string_view recipe, const Goals& goals,
                          const Joins& joins = {}, const Environment& drawer = {});
/// planned() for a block in this design: its source counts as said.
Goals planned_in(const Design& design, const Recipe& recipe, std::map<std::string, ParamValue> said,
                 const Environment& drawer = {});
/// What a recipe would build on in this design: its source, where the goals cannot say it.
Environment environment_in(const Design& design, Environment drawer = {});

/// The design without a block. Its source and main switch stay, and change hands, where others hang on them.
/// Design error if there is no such block.
Result<Design> without_block(const Design& design, std::size_t block);

/// The circuit that a block's recipe asks for, for its goals as they stand. Design error without that block
/// or recipe; those of sizing.
Result<Sized> sized_block(const Design& design, std::size_t block, const Environment& drawer = {});

/// Nets that the blocks of a design offer to others.
struct OfferedNet {
    std::size_t block;
    std::string net, label;  ///< "OUT", "output of the flasher"
};
std::vector<OfferedNet> offered_nets(const Design& design);

/// What one design has other than another, a line for each part: "R1: 68 kΩ → 82 kΩ", "C4: new, 100 nF",
/// "D1 goes".
std::vector<std::string> changed_parts(const Design& before, const Design& after);

/// A design to start from: the first recipe with its standard goals.
Design new_design();

/// The design with another circuit, as a person edited it: a goal that a part says is changed for its whole
/// block, another number of a recipe's part is known as set by hand from now on, what is gone is given up,
/// what was renamed keeps its owner. Every edit of a circuit goes through here.
Design with_circuit(const Design& design, Circuit circuit);

/// A number of a part that differs from what the goals of its block ask for.
struct Difference {
    std::size_t block = 0;
    std::string designator, param;
    ParamValue is, wanted;
    bool by_hand = false;                ///< known as set by hand
    std::optional<std::string> mirrors;  ///< the goal that it would be
};
std::vector<Difference> differences(const Design& design);
/// Takes the goals' value back. Design error if the block is gone or cannot be sized.
Result<Design> settle_to_goals(const Design& design, const Difference& difference);
/// Makes the part's value the goal. Usage error where no goal stands for it.
Result<Design> settle_to_part(const Design& design, const Difference& difference);

/// The number that a recipe chose for a part's parameter, with its working; nothing if no recipe did, or
/// another is in its place.
std::optional<Figure> chosen_figure(const Design& design, const std::string& designator,
                                    const std::string& param);

/// Changes that the recipe of the block with `part` declares for findings of a rule; of every block if `part`
/// is empty. Only those that change something and stay in range.
struct GoalChange {
    std::size_t block;
    std::string label;
    Goals goals;
};
std::vector<GoalChange> declared_remedies(const Design& design, const std::string& rule,
                                          const std::string& part);

/// The first block of a recipe; nothing if there is none.
std::optional<std::size_t> block_with(const Design& design, std::string_view recipe);

/// Whether a block owns or uses a part.
bool has_part(const Block& block, std::string_view designator);
/// The block that owns or uses a part; nothing if none does.
std::optional<std::size_t> block_of(const Design& design, std::string_view designator);

/// The design fed by `count` × `cell` in place of its first source; blocks that it feeds are sized anew as
/// they would be for it. Design error without a source; those of sizing.
Result<Design> with_supply(const Design& design, const std::string& cell, int count);

}  // namespace elkit
