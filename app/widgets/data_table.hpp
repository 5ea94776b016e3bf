#pragma once
#include <QTableWidget>
#include <vector>

namespace elkit {

/// A table of the bench: columns as wide as what they hold, headings over their numbers, sorted by a click on
/// a heading (again: the other way; a third time: as it was), copied by Ctrl+C with its headings. A row keeps
/// its number whatever the order in which rows are shown.
class DataTable : public QTableWidget {
    Q_OBJECT
  public:
    enum Holds { words, numbers };
    struct Column {
        QString heading;
        Holds holds = words;
    };
    DataTable(const QString& name, const std::vector<Column>& columns, int row_height = 24,
              QWidget* parent = nullptr);
    /// Gives each column its width: numbers all they need; words what is left, the widest giving way first.
    /// To be called when it has been filled.
    void fit();
    void sortBy(int column);
    QString copied() const;  ///< the chosen rows, or all, as tab-separated text

  protected:
    void resizeEvent(QResizeEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void resort();
    void share(std::vector<int>& widths) const;
    std::vector<Holds> holds_;
    int sorted_by_ = -1;
    Qt::SortOrder order_ = Qt::AscendingOrder;
};

}  // namespace elkit
