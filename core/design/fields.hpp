#pragma once
#include <functional>
#include <string>
#include <variant>
#include <vector>

#include "circuit/names.hpp"
#include "design/design.hpp"
#include "quantity/result.hpp"
#include "quantity/unit.hpp"

namespace elkit {

using FieldValue = std::variant<double, bool, std::string>;

/// Something of a design that a person sets and that no part and no goal says. Declared once, for the cards
/// of the window, the do-anything line and the command line.
struct DesignField {
    std::string id;                  ///< "run_time"
    std::string name, remark;        ///< "Run time", "from fresh cells, lit without a pause"
    std::vector<std::string> words;  ///< by which the do-anything line knows it; none: not at all
    std::string undo;                ///< "change the run time"
    std::function<FieldValue(const Design&)> get;
    std::function<void(Design&, const FieldValue&)> set;
    // of a number
    Unit unit = Unit::none;
    double least = 0, most = 0;
    bool whole = false;
    // of a text: circuit/names.hpp
    std::size_t longest = longest_word;
    bool lines = false;
};
const std::vector<DesignField>& design_fields();
const DesignField* find_field(std::string_view id);  ///< nullptr if unknown

/// The design with this field set. Usage error: no such field, another type, out of range.
Result<Design> with_field(const Design& design, std::string_view id, const FieldValue& value);

/// The design with a finding settled for this reason; with none it is open again.
Design with_decision(const Design& design, const std::string& finding, const std::string& reason);

/// The design with a fact about a build step, `time` as ISO 8601.
Design with_record(const Design& design, const std::string& step, const std::string& time,
                   const std::function<void(StepRecord&)>& change);

}  // namespace elkit
