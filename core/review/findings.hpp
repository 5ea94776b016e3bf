#pragma once
#include <array>
#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "batch/parts_list.hpp"
#include "build/steps.hpp"
#include "design/design.hpp"
#include "engine/queries.hpp"
#include "power/life.hpp"

namespace elkit {

enum class Severity { error, warning, note };

/// A remedy returns a new design; it may fail with the reason.
struct Remedy {
    std::string label;
    std::function<Result<Design>(const Design&)> apply;
};

/// One sentence with numbers, why it matters, and what can be done.
struct Finding {
    std::string id;  ///< "rule", "rule:R1" or "rule:R1:aspect"; decisions refer to it
    std::string rule;
    Severity severity = Severity::warning;
    std::string title, detail;
    std::string station;    ///< "light", "power", …
    std::string ref;        ///< "part:R1" or "field:run_time"; may be empty
    std::string aspect;     ///< what of it, where a rule can have several findings on one ref
    std::string situation;  ///< in which of the situations it is so; empty: in all that were looked at
    std::vector<Remedy> remedies;
    std::string known;  ///< the designer's reason, if decided
};

/// What a rule may look at in one situation, and asks for as it goes.
class Evidence {
  public:
    Evidence(const Design& design_in, const Keyed<Circuit>& circuit_in, const Conditions& conditions,
             const Keyed<std::vector<DrawerItem>>& drawer, const std::vector<Situation>& judged,
             const Ask& ask_in);
    const Design& design;
    const Keyed<Circuit>& circuit;
    const Conditions fresh;                    ///< the situation, from fresh cells
    const std::vector<Situation>& situations;  ///< all in which the design is judged
    const Ask& ask;

    /// At rest from fresh cells, at a corner of the spread; nothing for a circuit that moves or cannot be
    /// solved.
    Answer<OperatingPoint> rest(const Corner& corner = {}) const;
    Answer<LongRun> run(const Corner& corner = {}) const;  ///< the long run from fresh cells
    /// While a light is on, from fresh cells; false if that cannot be solved. The light's own pin tells when.
    WhileOn while_on(const std::string& light, const Corner& corner = {}, const std::string& pin = {}) const;
    Answer<LongRun> flat_run() const;  ///< at the end of the discharge; nothing if that has no end
    /// The same in another situation.
    Answer<LongRun> run_in(const Situation& situation) const;
    Answer<PowerResult> power() const;
    Answer<Board> board() const;
    Answer<std::vector<BuildStep>> steps() const;
    Answer<PartsList> parts() const;
    const std::vector<DrawerItem>& drawer() const { return *drawer_; }

  private:
    const Keyed<std::vector<DrawerItem>>& drawer_;
};

/// What a rule's findings depend on besides the circuit; what is not named here does not make it run again.
enum class On { conditions, brief, blocks, board, batch, readings };

/// In which situations a rule is judged: the first, which is lit where anything ever is; or every one, and
/// those that are worst for some part.
enum class Over { first, every };

/// A rule is data and one function.
struct Rule {
    std::string id, title, why, source;
    std::vector<On> on;
    std::function<void(const Evidence&, std::vector<Finding>&)> find;
    Over over = Over::first;
};
const std::vector<Rule>& rules();

/// All that findings can depend on, with the digests of its pieces worked out once.
struct Case {
    Case(std::shared_ptr<const Design> of, Keyed<Circuit> its, const Conditions& under,
         Keyed<std::vector<DrawerItem>> owned);
    std::shared_ptr<const Design> design;
    Keyed<Circuit> circuit;
    Conditions now;  ///< as the strip has them
    Keyed<std::vector<DrawerItem>> drawer;
    Digest of(On on) const { return digests[static_cast<std::size_t>(on)]; }
    std::array<Digest, 6> digests;
};

/// The situations in which a design is judged: its own or those that its circuit suggests, those that are
/// worst for some part, and "now", the conditions of the strip, where someone has turned them to something
/// else.
struct JudgedQuery {
    std::shared_ptr<const Case> subject;
    using Value = std::vector<Situation>;
    static constexpr std::string_view name = "judged situations";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// What one rule finds, over all situations that it is judged in. Its ids are its own.
struct JudgementQuery {
    const Rule* rule;
    std::shared_ptr<const Case> subject;
    using Value = std::vector<Finding>;
    static constexpr std::string_view name = "judgement";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// Puts the designer's reasons in and sorts: most serious first, decided ones last.
std::vector<Finding> settled(std::vector<Finding> findings, const Design& design);

/// Runs every rule.
std::vector<Finding> review(const Ask& ask, const Design& design, const Conditions& conditions,
                            const Keyed<std::vector<DrawerItem>>& drawer);

/// docs/rules.md, from the table.
std::string rules_markdown();

}  // namespace elkit
