#include "app/shell/workline.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>

#include "app/shell/progress_strip.hpp"
#include "app/shell/session.hpp"
#include "app/stations/station.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/card.hpp"

namespace elkit {

/// One station: a dot on the line, its name, its figure.
class Workline::Entry : public QPushButton {
  public:
    Entry(QString id, QString name, int number, Station* station, QWidget* parent)
        : QPushButton(parent),
          station_(station),
          id_(std::move(id)),
          name_(std::move(name)),
          number_(number) {
        setObjectName(QStringLiteral("station"));
        setCheckable(true);
        setFocusPolicy(Qt::TabFocus);
        setMinimumHeight(px(52));
        setAccessibleName(name_);
        setToolTip(tr("Ctrl+%1").arg(number_));
    }
    const QString& id() const { return id_; }
    KeyFigure keyFigure() const { return station_->keyFigure(); }
    void show_state(const QString& figure, int waiting, bool attention, bool dimmed) {
        figure_ = figure;
        waiting_ = waiting, attention_ = attention, dimmed_ = dimmed;
        setAccessibleDescription(waiting ? tr("%1; %n finding(s) wait here", nullptr, waiting).arg(figure)
                                         : figure);
        update();
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        const Theme& t = theme();
        if (isChecked() || underMouse()) {
            p.setPen(Qt::NoPen);
            p.setBrush(isChecked() ? t.paper : t.card);
            p.drawRoundedRect(rect().adjusted(8, 1, -8, -1), 8, 8);
        }
        if (isChecked()) p.fillRect(QRect(8, 2, 4, height() - 4), t.teal);
        const QPoint dot(px(34), px(19));
        p.setPen(QPen(t.line, 3));
        p.drawLine(dot.x(), 0, dot.x(), height());
        p.setPen(Qt::NoPen);
        if (waiting_ == 0) {
            p.setBrush(t.teal);
            p.drawEllipse(dot, px(6), px(6));
        } else {  // a number, so that colour is not all there is
            p.setBrush(attention_ ? t.rust : t.amber_text);
            p.drawEllipse(dot, px(9), px(9));
            QFont small = font();
            small.setPixelSize(px(11));
            small.setBold(true);
            p.setFont(small);
            p.setPen(t.dark ? t.paper : Qt::white);
            p.drawText(QRect(dot.x() - px(9), dot.y() - px(9), px(18), px(18)), Qt::AlignCenter,
                       QString::number(waiting_));
        }
        QFont bold = font();
        bold.setPixelSize(px(14));
        bold.setWeight(QFont::DemiBold);
        p.setFont(bold);
        p.setPen(t.ink);
        p.drawText(QPoint(px(54), px(22)), name_);
        QFont small = font();
        small.setPixelSize(px(12));
        small.setWeight(QFont::Normal);
        p.setFont(small);
        p.setPen(t.muted);
        p.setOpacity(dimmed_ ? 0.5 : 1);
        p.drawText(QRect(px(54), px(27), width() - px(62), px(18)), Qt::AlignLeft | Qt::AlignVCenter,
                   QFontMetrics(small).elidedText(figure_, Qt::ElideRight, width() - px(64)));
        p.setOpacity(1);
        if (hasFocus()) {
            p.setPen(QPen(t.amber, 2));
            p.setBrush(Qt::NoBrush);
            p.drawRoundedRect(rect().adjusted(9, 2, -9, -2), 7, 7);
        }
    }

  private:
    Station* station_;
    QString id_, name_, figure_;
    int number_, waiting_ = 0;
    bool attention_ = false, dimmed_ = false;
};

Workline::Workline(Session& session, const std::map<QString, Station*>& stations, QWidget* parent)
    : QWidget(parent), session_(session) {
    setObjectName(QStringLiteral("workline"));
    setAttribute(Qt::WA_StyledBackground);
    setFixedWidth(px(186));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 14, 0, 12);
    column->setSpacing(0);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(22, 0, 10, 0);
    auto* titles = new QVBoxLayout;
    titles->setSpacing(0);
    titles->addWidget(label(QStringLiteral("Elkit"), "brand"));
    name_ = label({}, "muted");
    titles->addWidget(name_);
    head->addLayout(titles, 1);
    menu_slot_ = new QWidget;
    head->addWidget(menu_slot_, 0, Qt::AlignTop);
    column->addLayout(head);
    column->addSpacing(10);
    int number = 0;
    for (const StationInfo& info : elkit::stations()) {
        auto* entry = new Entry(info.id, info.title, ++number, stations.at(info.id), this);
        connect(entry, &QPushButton::clicked, this, [this, entry] { emit chosen(entry->id()); });
        entries_.push_back(entry);
        column->addWidget(entry);
    }
    column->addStretch(1);
    column->addWidget(new ProgressStrip(session_));
    auto* hint = label(tr("Ctrl 1…%1 stations\nCtrl K do anything").arg(number), "small");
    hint->setContentsMargins(24, 0, 0, 0);
    column->addWidget(hint);
    for (auto signal : {&Session::changed, &Session::arrived, &Session::pathChanged})
        connect(&session_, signal, this, &Workline::refresh);
}

void Workline::setCurrent(const QString& station) {
    for (Entry* entry : entries_) entry->setChecked(entry->id() == station);
}

void Workline::refresh() {
    name_->setText(QString::fromStdString(session_.design().name) +
                   (session_.modified() ? tr(" ·  unsaved") : QString()));
    for (Entry* entry : entries_) {
        int waiting = 0;
        bool attention = false;
        for (const Finding& f : session_.findings())
            if (f.known.empty() && f.severity != Severity::note &&
                entry->id() == QString::fromStdString(f.station))
                ++waiting, attention = attention || f.severity == Severity::error;
        const KeyFigure figure = entry->keyFigure();
        entry->show_state(figure.text, waiting, attention, !figure.current);
    }
}

}  // namespace elkit
