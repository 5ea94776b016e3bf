#pragma once
#include <QVBoxLayout>

#include "app/shell/session.hpp"
#include "app/widgets/data_table.hpp"

class QLabel;

namespace elkit {

/// A page of a station's tabs: tools, tables and a note below, about the answer to one question, which is
/// asked while the page is in view.
class TabPanel : public QWidget {
    Q_OBJECT
  public:
    explicit TabPanel(Session& session, QWidget* parent = nullptr);
    virtual void refresh() = 0;

  protected:
    /// A table of figures that shows their workings, not yet placed; `choosing` rows one at a time.
    DataTable* makeTable(const QString& name, const char* object,
                         const std::vector<DataTable::Column>& columns, bool choosing = false);
    /// Words below, which also tell why there is no answer.
    void addNote();

    /// What the answer is shown in: hidden where there is none.
    void setShownOnlyWithAnswer(std::vector<QWidget*> widgets) { of_answer_ = std::move(widgets); }
    /// Asks, and shows an answer that is another than the one that is shown; `action` works with it.
    template <class Query, class Fill>
    void present(const Query& asked, QWidget* action, Fill fill) {
        const auto found = session_.ask(asked);
        if (action) action->setEnabled(found && found.current());
        if (!found.current() || shown_ == asked.key()) return;
        shown_ = asked.key();
        for (QWidget* widget : of_answer_) widget->setVisible(bool(found));
        if (found) return fill(*found);
        tell(QString::fromStdString(found.error().text()));
    }
    void tell(const QString& words);
    void showAnswer() const {
        for (QWidget* widget : of_answer_) widget->show();
    }
    void lack(const QString& words);  ///< there is nothing to ask yet: says what is missing

    Session& session_;
    QVBoxLayout* column_;

  private:
    QLabel* note_ = nullptr;
    std::vector<QWidget*> of_answer_;
    Digest shown_;
};

}  // namespace elkit
