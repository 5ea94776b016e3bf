#pragma once
#include <filesystem>

#include "app/widgets/tab_panel.hpp"
#include "face/places.hpp"

class QComboBox;
class QLabel;
class QPushButton;

namespace elkit {

class PictureView;
class QuantityEdit;

/// The holes that the lights look out of: where they are, how wide, and what to drill them by.
class FacePanel : public TabPanel {
    Q_OBJECT
  public:
    explicit FacePanel(Session& session, QWidget* parent = nullptr);
    void refresh() override;
    PictureView* picture() const { return picture_; }
    /// Takes the outline and the holes of a drawing; an error is reported.
    void readOutline(const std::filesystem::path& file);
    void writeTemplate(const std::filesystem::path& file, bool strip);

  private:
    QLayout* sheetRow();
    QLayout* placeRow();
    QLayout* filesRow();
    void change(const QString& what, const std::function<void(Face&)>& change);
    void arrange();
    void choose(const QString& ref);
    void place(const std::string& light, double x, double y);
    void ask(bool strip);
    const FaceSpot* chosen() const;
    std::vector<FaceSpot> spots_;
    std::string chosen_;
    PictureView* picture_;
    QComboBox *material_, *fit_, *pattern_;
    QuantityEdit *thickness_, *width_, *height_, *spacing_, *x_, *y_, *fitted_;
    QLabel* named_;
    DataTable* table_;
};

}  // namespace elkit
