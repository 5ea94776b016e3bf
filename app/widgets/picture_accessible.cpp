#include "app/widgets/picture_accessible.hpp"

#include <QAccessible>
#include <QAccessibleWidget>
#include <map>

#include "app/widgets/picture_view.hpp"

namespace elkit {
namespace {

/// One selectable item of a picture, as a child of its view.
class PictureItem : public QAccessibleInterface {
  public:
    PictureItem(PictureView* view, QString ref) : view_(view), ref_(std::move(ref)) {}
    bool isValid() const override { return view_; }
    QObject* object() const override { return nullptr; }
    QAccessibleInterface* parent() const override { return QAccessible::queryAccessibleInterface(view_); }
    QAccessibleInterface* child(int) const override { return nullptr; }
    QAccessibleInterface* childAt(int, int) const override { return nullptr; }
    int childCount() const override { return 0; }
    int indexOfChild(const QAccessibleInterface*) const override { return -1; }
    QString text(QAccessible::Text kind) const override {
        return kind == QAccessible::Name ? view_->itemName(ref_) : QString();
    }
    void setText(QAccessible::Text, const QString&) override {}
    QRect rect() const override {
        const QRect box = view_->itemRect(ref_).toAlignedRect();
        return {view_->mapToGlobal(box.topLeft()), box.size()};
    }
    QAccessible::Role role() const override { return QAccessible::Graphic; }
    QAccessible::State state() const override {
        QAccessible::State s;
        s.selectable = true;
        s.selected = view_->selected() == ref_;
        return s;
    }

  private:
    PictureView* view_;
    QString ref_;
};

class PictureAccessible : public QAccessibleWidget {
  public:
    explicit PictureAccessible(PictureView* view)
        : QAccessibleWidget(view, QAccessible::Graphic), view_(view) {}
    ~PictureAccessible() override {
        for (const auto& [ref, id] : ids_) QAccessible::deleteAccessibleInterface(id);
    }
    int childCount() const override { return static_cast<int>(view_->selectableRefs().size()); }
    QAccessibleInterface* child(int index) const override {
        const auto refs = view_->selectableRefs();
        if (index < 0 || index >= static_cast<int>(refs.size())) return nullptr;
        const auto& ref = refs[static_cast<std::size_t>(index)];
        auto [at, fresh] = ids_.try_emplace(ref, 0U);
        if (fresh)
            at->second =
                QAccessible::registerAccessibleInterface(new PictureItem(view_, QString::fromStdString(ref)));
        return QAccessible::accessibleInterface(at->second);
    }

  private:
    PictureView* view_;
    mutable std::map<std::string, QAccessible::Id> ids_;
};

QAccessibleInterface* make_interface(const QString&, QObject* object) {
    if (auto* view = qobject_cast<PictureView*>(object)) return new PictureAccessible(view);
    return nullptr;
}

}  // namespace

void install_picture_accessibility() {
    static const bool once = [] {
        QAccessible::installFactory(make_interface);
        return true;
    }();
    (void)once;
}

}  // namespace elkit
