#include "app/drawer/stock.hpp"

#include <QPointer>
#include <QUndoCommand>
#include <utility>

#include "app/shell/writer.hpp"

namespace elkit {

class StockStep : public QUndoCommand {
  public:
    StockStep(Stock& stock, const std::vector<DrawerChange>& changes, const QString& what)
        : QUndoCommand(what), stock_(&stock), back_(inverse(*stock.items(), changes)), forth_(changes) {}
    void undo() override {
        if (stock_) stock_->apply(back_);
    }
    void redo() override {
        if (stock_) stock_->apply(forth_);
    }

  private:
    QPointer<Stock> stock_;
    std::vector<DrawerChange> back_, forth_;
};

Stock::Stock(Drawer drawer) : drawer_(std::make_shared<Drawer>(std::move(drawer))) {
    items_ = drawer_->take_opened();
}

Stock::Stock(const std::filesystem::path& file) : file_(file) { open(); }

void Stock::open() {
    auto drawer = Drawer::open(file_);
    trouble_ = drawer ? QString() : QString::fromStdString(drawer.error().text());
    if (!drawer) return;
    drawer_ = std::make_shared<Drawer>(std::move(drawer).value());
    items_ = drawer_->take_opened();
}

bool Stock::edit(QUndoStack& undo, const std::vector<DrawerChange>& changes, const QString& what) {
    if (!drawer_) {
        emit failed(tr("The drawer could not be opened; its stock cannot be changed."));
        return false;
    }
    for (const DrawerChange& change : changes)
        if (change.item)
            if (auto sound = check(*change.item); !sound) {  // a bad item leaves no step behind
                emit failed(QString::fromStdString(sound.error().text()));
                return false;
            }
    if (inverse(*items_, changes) == changes) return false;
    undo.push(new StockStep(*this, changes, what));
    return true;
}

void Stock::apply(const std::vector<DrawerChange>& changes) {
    items_ = with_changes(*items_, changes);
    emit changed();
    ++writing_;
    struct Now {
        Result<void> done;
        Result<std::vector<DrawerItem>> items;  // another program may have changed it too
    };
    keeper().run(
        [drawer = drawer_, changes]() -> Result<Now> {
            auto done = drawer->apply(changes);
            return Now{std::move(done), drawer->items()};
        },
        this,
        [this](Result<Now> now) {
            --writing_;
            if (!now) return emit failed(QString::fromStdString(now.error().text()));
            auto& [done, items] = now.value();
            if (!done) emit failed(QString::fromStdString(done.error().text()));
            if (writing_ > 0) return;  // these items are not the last word
            if (!items || items.value() == *items_) return;
            items_ = std::move(items).value();
            emit changed();
        });
}

Result<std::filesystem::path> Stock::startAnew() {
    auto aside = set_aside(file_);
    if (!aside) return aside;
    open();
    emit changed();
    return aside;
}

}  // namespace elkit
