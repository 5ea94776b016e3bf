#include "app/stations/circuit/intent_list.hpp"

#include <QPainter>
#include <QStyledItemDelegate>
#include <QTimer>
#include <algorithm>

#include "app/shell/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/effect_view.hpp"
#include "recipes/blocks.hpp"
#include "recipes/effect.hpp"

namespace elkit {
namespace {

enum Data { id_of = Qt::UserRole, about_of, heading_of };

/// Words at the left, the effect at the right.
class IntentDelegate : public QStyledItemDelegate {
  public:
    IntentDelegate(Session& session, QObject* parent) : QStyledItemDelegate(parent), session_(session) {
        clock_.start();
    }
    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const override {
        return {px(200), index.data(heading_of).toBool() ? px(28) : px(62)};
    }
    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        painter->save();
        const QRect room = option.rect.adjusted(px(10), 0, -px(8), 0);
        if (index.data(heading_of).toBool()) {
            painter->setPen(theme().muted);
            painter->drawText(room.adjusted(0, px(6), 0, 0), Qt::AlignLeft | Qt::AlignVCenter,
                              index.data().toString());
            return painter->restore();
        }
        if (option.state & QStyle::State_Selected) {
            painter->fillRect(option.rect, theme().side);
            painter->fillRect(QRect(option.rect.left(), option.rect.top(), px(3), option.rect.height()),
                              theme().teal);
        }
        const int picture = px(88);
        const QRect words = room.adjusted(0, px(6), -picture - px(8), -px(6));
        QFont bold = option.font;
        bold.setBold(true);
        painter->setFont(bold);
        painter->setPen(theme().ink);
        const QFontMetrics above(bold);
        painter->drawText(words, Qt::AlignLeft | Qt::AlignTop,
                          above.elidedText(index.data().toString(), Qt::ElideRight, words.width()));
        QFont small = option.font;
        small.setPixelSize(px(12));
        painter->setFont(small);
        painter->setPen(theme().muted);
        painter->drawText(words.adjusted(0, above.height() + 1, 0, px(4)),
                          Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, index.data(about_of).toString());
        paintEffect(*painter, QRectF(room.right() - picture, room.center().y() - px(15), picture, px(30)),
                    index.data(id_of).toString());
        painter->restore();
    }

  private:
    /// That of its usual goals, or of a block's own.
    void paintEffect(QPainter& painter, const QRectF& room, const QString& id) const {
        EffectQuery query;
        if (id.startsWith(QLatin1Char('#'))) {
            const auto& blocks = session_.design().blocks;
            const auto k = static_cast<std::size_t>(id.mid(1).toInt());
            if (k >= blocks.size()) return;
            query = {blocks[k].recipe, goals_of(session_.design(), blocks[k])};
        } else {
            const Recipe* recipe = find_recipe(id.toStdString());
            if (!recipe) return;
            auto usual = usual_.find(id);
            if (usual == usual_.end()) usual = usual_.insert(id, planned(*recipe, {}));
            query = {recipe->id, *usual};
        }
        const auto effect = session_.ask(query, Urgency::in_view, id.toUtf8().constData());
        if (!effect) return;
        paint_effect(painter, room, *effect,
                     shown_time(*effect, static_cast<double>(clock_.elapsed()) / 1000));
    }
    Session& session_;
    QElapsedTimer clock_;
    mutable QHash<QString, Goals> usual_;  // of each recipe: it tries a few to find them
};

}  // namespace

IntentList::IntentList(Session& session, QWidget* parent)
    : QListWidget(parent), session_(session), timer_(new QTimer(this)) {
    setObjectName(QStringLiteral("intents"));
    setAccessibleName(tr("What should it do?"));
    setItemDelegate(new IntentDelegate(session, this));
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    timer_->setInterval(40);
    connect(timer_, &QTimer::timeout, this, [this] { viewport()->update(); });
    connect(this, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
        if (item && !item->data(heading_of).toBool()) emit chosen(item->data(id_of).toString());
    });
}

void IntentList::heading(const QString& text) {
    auto* item = new QListWidgetItem(text, this);
    item->setData(heading_of, true);
    item->setFlags(Qt::NoItemFlags);
}

void IntentList::refresh() {
    QStringList now;
    for (const Block& block : session_.design().blocks) now << QString::fromStdString(block.recipe);
    if (now == shown_ && count() > 0) return;
    shown_ = now;
    const QString before = currentItem() ? currentItem()->data(id_of).toString() : QString();
    const QSignalBlocker quiet(this);
    clear();
    const auto add = [this](const QString& id, const QString& title, const Recipe& recipe) {
        auto* item = new QListWidgetItem(title, this);
        item->setData(id_of, id);
        item->setData(about_of, QString::fromStdString(recipe.about));
        item->setData(Qt::AccessibleDescriptionRole, QString::fromStdString(recipe.about));
        item->setToolTip(QString::fromStdString(recipe.about));
    };
    bool any = false;
    for (int k = 0; k < now.size(); ++k)
        if (const Recipe* recipe = find_recipe(now[k].toStdString())) {
            if (!any) heading(tr("IN THIS DESIGN")), any = true;
            add(QStringLiteral("#%1").arg(k), QString::fromStdString(recipe->name), *recipe);
        }
    std::vector<std::string> groups;
    for (const Recipe& recipe : recipes())
        if (std::find(groups.begin(), groups.end(), recipe.group) == groups.end())
            groups.push_back(recipe.group);
    for (const std::string& group : groups) {
        heading(tr("MAKE IT, %1").arg(QString::fromStdString(group)));
        for (const Recipe& recipe : recipes())
            if (recipe.group == group)
                add(QString::fromStdString(recipe.id), QString::fromStdString(recipe.intent), recipe);
    }
    choose(before);
}

void IntentList::choose(const QString& id) {
    for (int k = 0; k < count(); ++k)
        if (item(k)->data(id_of).toString() == id && !id.isEmpty()) return setCurrentRow(k);
}

void IntentList::showEvent(QShowEvent* event) {
    QListWidget::showEvent(event);
    timer_->start();
}
void IntentList::hideEvent(QHideEvent* event) {
    QListWidget::hideEvent(event);
    timer_->stop();
}

}  // namespace elkit
