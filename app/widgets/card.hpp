#pragma once
#include <QComboBox>
#include <QFrame>
#include <QGridLayout>
#include <QLabel>
#include <QVBoxLayout>

namespace elkit {

/// A titled panel of the bench.
class Card : public QFrame {
  public:
    explicit Card(const QString& title, QWidget* parent = nullptr);
    QVBoxLayout* body() { return body_; }

  private:
    QVBoxLayout* body_;
};

/// Shows a view dimmed while what it shows is being computed again.
void dim(QWidget* view, bool dimmed);

/// One line of words that ends in … where there is no room for all; then they stand in its tool tip.
class ElidingLabel : public QLabel {
  public:
    using QLabel::QLabel;
    QSize minimumSizeHint() const override;

  protected:
    void paintEvent(QPaintEvent*) override;
};

/// A label with a look from the style sheet: "muted", "small", "title", "bold", …
QLabel* label(const QString& text, const char* look = "");

/// Rows of name, field and a short remark.
class Form : public QGridLayout {
  public:
    void addWide(const QString& name, QWidget* field);  ///< over the remark's room too
    void addField(const QString& name, QWidget* field, QWidget* remark = nullptr);
    void setShown(QWidget* field, bool shown);  ///< with its name and its remark

  private:
    int rows_ = 0;
};

}  // namespace elkit
