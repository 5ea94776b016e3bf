#pragma once
#include <QLineEdit>

#include "quantity/unit.hpp"

namespace elkit {

/// Marks a field whose text is wrong, with the fault as its tip; an empty fault takes the mark away.
void mark_fault(QLineEdit& field, const QString& fault);

/// A field for a number as people type it. An unreadable entry keeps its text, is marked, and says what was
/// expected.
class QuantityEdit : public QLineEdit {
    Q_OBJECT
  public:
    QuantityEdit(const QString& name, Unit unit, double low, double high, QWidget* parent = nullptr);
    void setValue(double value);  ///< shown unless the field is being edited or marked bad
    double value() const { return value_; }

  signals:
    void valueEntered(double value);

  protected:
    void focusOutEvent(QFocusEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void commit();
    void mark(const QString& fault);
    Unit unit_;
    double low_, high_, value_ = 0;
};

}  // namespace elkit
