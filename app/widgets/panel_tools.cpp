#include "app/widgets/panel_tools.hpp"

#include <QBoxLayout>
#include <QComboBox>
#include <QPushButton>
#include <algorithm>

#include "app/theme/theme.hpp"

namespace elkit {

QPushButton* tool_button(QBoxLayout* row, const QString& words, const QString& tip,
                         std::function<void()> does) {
    auto* button = new QPushButton(words);
    button->setToolTip(tip);
    button->setAutoDefault(false);
    QObject::connect(button, &QPushButton::clicked, button, std::move(does));
    row->addWidget(button);
    return button;
}

QIcon colour_swatch(const QColor& colour) {
    QPixmap square(px(12), px(12));
    square.fill(colour);
    return square;
}

void offer_choices(QComboBox* box, const QStringList& names) {
    QStringList before;
    for (int k = 0; k < box->count(); ++k) before << box->itemText(k);
    if (names != before) {
        const QString chosen = box->currentText();
        box->clear();
        box->addItems(names);
        box->setCurrentIndex(std::max(0, box->findText(chosen)));
    }
    box->setVisible(names.size() > 1);
}

}  // namespace elkit
