#pragma once
#include <QIcon>
#include <QString>
#include <QStringList>
#include <functional>

class QBoxLayout;
class QColor;
class QComboBox;
class QPushButton;

namespace elkit {

/// A button of a panel's row of tools, at the end of it.
QPushButton* tool_button(QBoxLayout* row, const QString& words, const QString& tip,
                         std::function<void()> does);

/// A square in the colour of a wire.
QIcon colour_swatch(const QColor& colour);

/// Lets a box offer these; what was chosen stays, where it is still among them. Hidden where there is no
/// choice.
void offer_choices(QComboBox* box, const QStringList& names);

}  // namespace elkit
