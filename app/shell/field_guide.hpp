#pragma once
#include <QString>

class QWidget;

namespace elkit {

/// What the guide says of a field or button by this name; empty if nothing. The page "Fields and buttons" has
/// one paragraph for each, "**name / other name** words"; … in a name stands for anything.
QString field_words(const QString& name);

/// What is known of a field: its name, its value if it is a number of the design, what the guide says of it,
/// and its tool tip; of the nearest thing round it if it has no name. Empty if nothing is known.
QString what_is(const QWidget* widget);

}  // namespace elkit
