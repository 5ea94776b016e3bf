#include "app/stations/circuit/goal_chooser.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QSet>

#include "app/shell/session.hpp"
#include "circuit/part_kind.hpp"

namespace elkit {

GoalChooser::GoalChooser(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), probe_(new QComboBox), reading_(new QComboBox) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(reading_, 1);
    row->addWidget(probe_, 1);
    probe_->setAccessibleName(tr("what to look at"));
    for (QComboBox* box : {probe_, reading_}) {
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(5);
    }
    probe_->setEditable(true);
    probe_->setInsertPolicy(QComboBox::NoInsert);
    reading_->setAccessibleName(tr("how to read it"));
    const std::pair<const char*, QString> readings[]{{"mean", tr("mean of")},
                                                     {"min", tr("least of")},
                                                     {"max", tr("most of")},
                                                     {"rms", tr("rms of")},
                                                     {"swing", tr("swing of")},
                                                     {"period", tr("period of")},
                                                     {"frequency", tr("frequency of")},
                                                     {"duty", tr("duty of")},
                                                     {"high", tr("high time of")},
                                                     {"low", tr("low time of")},
                                                     {"cycle", tr("charge or energy a cycle of")}};
    for (const auto& [id, name] : readings) reading_->addItem(name, QLatin1String(id));
    connect(probe_, &QComboBox::activated, this, &GoalChooser::chosen);
    connect(reading_, &QComboBox::activated, this, &GoalChooser::chosen);
    connect(&session_, &Session::designChanged, this, &GoalChooser::rebuild);
    rebuild();
}

/// LEDs first, then the source, other parts' currents, nets and light; the choice is kept where it can be.
void GoalChooser::rebuild() {
    const QString before = probe_->currentText();
    const Circuit& circuit = session_.design().circuit;
    QStringList names;
    QSet<QString> listed;
    const auto add = [&](const QString& name) {
        if (listed.contains(name)) return;
        listed.insert(name);
        names << name;
    };
    for (const Part& part : circuit.parts)
        if (is(part, Role::light)) add(QString::fromStdString(part.designator));
    if (circuit.source()) add(QString::fromStdString(circuit.source()->designator));
    const std::string rail = circuit.negative_rail();
    for (const auto& net : circuit.nets())
        if (net != rail) add(QString::fromStdString(net));
    for (const Part& part : circuit.parts) {
        const QString name = QString::fromStdString(part.designator);
        add(name), add(name + QStringLiteral(".p"));
        if (is(part, Role::light)) add(name + QStringLiteral(".light"));
    }
    if (names == names_) return;
    names_ = names;
    probe_->clear();
    probe_->addItems(names);
    probe_->setCurrentIndex(std::max(0, probe_->findText(before)));
}

void GoalChooser::choose(const QString& probe, const QString& reading) {
    probe_->setCurrentText(probe);
    reading_->setCurrentIndex(std::max(0, reading_->findData(reading)));
}

Result<Goal> GoalChooser::goal() const {
    return goal_from_words(
        session_.design().circuit,
        (probe_->currentText() + QLatin1Char(' ') + reading_->currentData().toString()).toStdString());
}

}  // namespace elkit
