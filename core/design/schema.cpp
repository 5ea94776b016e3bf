#include <fmt/format.h>

#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validation_results.hpp>
#include <valijson/validator.hpp>

#include "circuit/part_kind.hpp"
#include "design/file.hpp"
#include "design/json_text.hpp"
#include "embedded.hpp"

namespace elkit {
namespace {

/// valijson names a place as "<root>[circuit][parts][0]"; people and tools know JSON pointers.
std::string pointer_of(const std::vector<std::string>& context) {
    std::string pointer;
    for (const std::string& step : context)
        if (step.starts_with('[') && step.ends_with(']')) pointer += "/" + step.substr(1, step.size() - 2);
    return pointer.empty() ? "/" : pointer;
}

using Ordered = nlohmann::ordered_json;

Ordered param_schema(const ParamInfo& p) {
    Ordered j;
    if (std::holds_alternative<std::string>(p.standard)) {
        j["type"] = "string";
    } else if (std::holds_alternative<PointList>(p.standard)) {
        const Ordered pair = {
            {"type", "array"}, {"minItems", 2}, {"maxItems", 2}, {"items", {{"type", "number"}}}};
        j = {{"type", "array"}, {"items", pair}};
    } else {
        j = {{"type", "number"}, {"minimum", p.low}, {"maximum", p.high}};
    }
    j["description"] = p.meaning + (symbol(p.unit).empty() ? "" : " [" + std::string(symbol(p.unit)) + "]");
    return j;
}

Ordered kind_schema(const PartKind& kind) {
    const Ordered net = {{"$ref", "#/definitions/name"}};
    Ordered pins = {{"type", "object"}, {"required", Ordered::array()}, {"additionalProperties", false}};
    for (const auto& pin : kind.pins) {
        if (!kind.optional(pin)) pins["required"].push_back(pin);
        pins["properties"][pin] = net;
    }
    Ordered params = {{"type", "object"}};
    for (const auto& p : kind.params) params["properties"][p.key] = param_schema(p);
    return {{"properties", {{"kind", {{"enum", {kind.id}}}}, {"pins", pins}, {"params", params}}}};
}

}  // namespace

std::string design_schema() {
    Ordered schema = Ordered::parse(embedded::design_schema);
    Ordered& item = schema["properties"]["circuit"]["properties"]["parts"]["items"];
    item["properties"]["kind"]["enum"] = Ordered::array();
    item["anyOf"] = Ordered::array();
    for (const auto& kind : part_kinds()) {
        item["properties"]["kind"]["enum"].push_back(kind.id);
        item["anyOf"].push_back(kind_schema(kind));
    }
    return schema.dump(1) + "\n";
}

std::vector<Error> schema_errors(std::string_view text) {
    using nlohmann::json;
    const auto parsed = parse_json(text, "the JSON text of a design");
    if (!parsed) return {parsed.error()};
    const json document = parsed.value();
    const json schema_text = json::parse(design_schema());
    valijson::Schema schema;
    valijson::SchemaParser parser;
    parser.populateSchema(valijson::adapters::NlohmannJsonAdapter(schema_text), schema);
    valijson::Validator validator;
    valijson::ValidationResults results;
    validator.validate(schema, valijson::adapters::NlohmannJsonAdapter(document), &results);
    std::vector<Error> errors;
    valijson::ValidationResults::Error error;
    while (results.popError(error))
        errors.push_back(
            {Fault::design, pointer_of(error.context), error.description, "what the schema says"});
    return errors;
}

}  // namespace elkit
