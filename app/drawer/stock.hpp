#pragma once
#include <QObject>
#include <QUndoStack>
#include <filesystem>
#include <memory>

#include "drawer/drawer.hpp"

namespace elkit {

/// The drawer, shared by all windows. A change is seen at once and written by the keeper; what cannot be
/// written is taken back and told.
class Stock : public QObject {
    Q_OBJECT
  public:
    Stock() = default;                                  ///< of somebody who owns nothing
    explicit Stock(Drawer drawer);                      ///< one that was opened
    explicit Stock(const std::filesystem::path& file);  ///< opens or makes it; else trouble()

    const Keyed<std::vector<DrawerItem>>& items() const { return items_; }
    const DrawerItem* find(const std::string& key) const { return find_item(*items_, key); }
    const QString& trouble() const { return trouble_; }  ///< why there is none; empty if there is one
    bool there() const { return drawer_ != nullptr; }

    /// One undoable step. False, and nothing done, if it would change nothing or cannot be; failed() says
    /// why.
    bool edit(QUndoStack& undo, const std::vector<DrawerChange>& changes, const QString& what);
    /// Puts a drawer that cannot be read aside and starts another; returns where the old one is.
    Result<std::filesystem::path> startAnew();

  signals:
    void changed();
    void failed(const QString& why);

  private:
    friend class StockStep;
    void open();
    void apply(const std::vector<DrawerChange>& changes);
    std::filesystem::path file_;
    std::shared_ptr<Drawer> drawer_;
    Keyed<std::vector<DrawerItem>> items_;
    QString trouble_;
    int writing_ = 0;
};

}  // namespace elkit
