#pragma once
#include <QTimer>
#include <QWidget>
#include <optional>
#include <utility>

#include "app/shell/background.hpp"
#include "engine/conditions.hpp"
#include "matrix/frames.hpp"
#include "power/picture_current.hpp"

class QBoxLayout;
class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;

namespace elkit {

class MatrixView;
class Session;

/// What the matrices of a chain show: its pictures in a row, the current one to draw in, and what each takes.
class PicturesPanel : public QWidget {
    Q_OBJECT
  public:
    explicit PicturesPanel(Session& session, QWidget* parent = nullptr);
    MatrixView* drawing() const { return drawing_; }
    QListWidget* list() const { return list_; }
    QLineEdit* seconds() const { return seconds_; }
    QLabel* taken() const { return taken_; }
    void choose(int picture);
    void addPicture();     ///< a copy behind the current one
    void removePicture();  ///< the current one, unless it is the last
    void movePicture(int by);
    void slide(int columns);  ///< the current one, what leaves at one end comes in at the other
    void invert();            ///< every light of it
    void play(bool on);
    bool computing() const { return work_.running(); }

  protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

  private:
    using Pictures = std::vector<std::vector<MatrixFrame>>;  // matrix, picture
    QWidget* tools();
    std::vector<std::string> chain() const;
    std::size_t current() const;
    std::vector<MatrixFrame> picture(std::size_t number) const;
    void refresh();
    void fillList(int row);
    void replace(const std::vector<MatrixFrame>& picture, const QString& what);
    void showCurrent();
    void measure();
    void tell();
    void put(Pictures pictures, const QString& what, std::size_t then);
    void timeEntered();
    Session& session_;
    QComboBox* which_;
    MatrixView* drawing_;
    QBoxLayout* sides_;  ///< the drawing and the list
    QListWidget* list_;
    QLineEdit* seconds_;
    QLabel *order_, *taken_;
    QPushButton* play_;
    Pictures pictures_;
    QColor colour_;  ///< of its lights
    std::vector<std::string> shown_chain_;
    std::optional<std::pair<Circuit, Conditions>> measured_;
    std::optional<PictureCurrents> currents_;
    QTimer clock_;
    Background work_;
};

}  // namespace elkit
