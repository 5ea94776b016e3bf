#pragma once
#include <functional>
#include <vector>

#include "app/widgets/card.hpp"
#include "design/fields.hpp"

namespace elkit {

class Session;

/// Rows for declared fields of the design: each shows what the design says and changes it.
class FieldForm : public Form {
  public:
    /// `remarks`: beside the fields; else they are tool tips only.
    FieldForm(Session& session, const std::vector<std::string>& ids, bool remarks = true);
    void refresh();
    QWidget* field(const std::string& id) const;  ///< nullptr if it has none of that id

  private:
    void add(const DesignField& field);
    QWidget* make(const DesignField& field);
    void change(const DesignField& field, const FieldValue& value);

    struct Row {
        std::string id;
        QWidget* widget;
        std::function<void()> show;
    };
    Session& session_;
    bool remarks_;
    std::vector<Row> rows_;
};

}  // namespace elkit
