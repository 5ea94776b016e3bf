#pragma once
#include <QLabel>
#include <QVBoxLayout>
#include <QWidget>
#include <functional>
#include <vector>

#include "quantity/result.hpp"
#include "store/digest.hpp"

namespace elkit {

class Offer;
class Session;

/// What the workline says of a station.
struct KeyFigure {
    QString text;
    bool current = true;  ///< false: being computed
};

/// A station of the bench: a title, one line that says what it shows, and its panels.
class Station : public QWidget {
    Q_OBJECT
  public:
    Station(Session& session, const QString& title, QWidget* parent = nullptr);
    /// Puts the keyboard on the field or part that a finding names.
    virtual void focusRef(const QString& ref) { (void)ref; }
    /// Its one live number.
    virtual KeyFigure keyFigure() = 0;

  signals:
    void actionAsked(const QString& id);  ///< an action of the window, by name

  protected:
    /// Called when something changed or arrived and the station is visible: time to ask for results again.
    virtual void refresh() = 0;
    void setSubtitle(const QString& text) { subtitle_->setText(text); }
    Session& session() { return session_; }
    QVBoxLayout* body() { return body_; }
    /// In place of the panels: what is missing, and a button that triggers an action of the window.
    void lack(const QString& what, const QString& button, const QString& action);
    /// The same for a circuit that has no parts, and for one that cannot be computed.
    void lackParts();
    void lackFor(const Error& error);
    void lackNothing();
    QHBoxLayout* head() { return head_; }  ///< the title's row, for a few readings at its right
    void showEvent(QShowEvent*) override { refresh(); }
    void changeEvent(QEvent* event) override;
    /// True once for each content and each change of theme: time to fill tables anew.
    bool outdated(const Digest& content);

  private:
    Session& session_;
    QVBoxLayout* body_;
    QHBoxLayout* head_;
    Offer* panels_;
    QString offered_;  ///< the action
    QLabel* subtitle_;
    Digest filled_;
};

/// A picture for the documentation: a demo, what to do before it is taken.
struct StationShot {
    QString file, demo;
    std::function<void(Session&, Station&)> prepare;  ///< may be empty
    bool bare = false;                                ///< findings and working folded
    bool dark = false;
};

/// The usual preparation: a number's working in the drawer, the cells at this state of charge.
std::function<void(Session&, Station&)> shows_figure(const QString& name, double battery = 1);

/// A station as the window knows it. Each is made in its own folder; app/stations/stations.cpp lists them.
struct StationInfo {
    QString id, title;
    std::function<Station*(Session&)> make;
    std::vector<StationShot> shots;
    bool opens = false;  ///< the one to start with
};

/// All stations, in the order the work goes.
const std::vector<StationInfo>& stations();

}  // namespace elkit
