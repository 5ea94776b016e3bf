#include <fmt/format.h>

#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validation_results.hpp>
#include <valijson/validator.hpp>

#include "design/file.hpp"
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

}  // namespace

std::vector<Error> schema_errors(std::string_view text) {
    using nlohmann::json;
    const json document = json::parse(text, nullptr, false);
    if (document.is_discarded()) return design_errors(text);
    const json schema_text = json::parse(embedded::design_schema);
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
