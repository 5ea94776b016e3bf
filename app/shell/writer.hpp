#pragma once
#include <QCoreApplication>
#include <QMetaObject>
#include <QPointer>
#include <QThreadPool>
#include <memory>

#include "quantity/result.hpp"

namespace elkit {

/// Runs jobs one after another on a thread of its own, so that a slow disk holds nobody up. None is dropped,
/// also when who asked for it is gone. Made and used on the interface's thread.
class Writer {
  public:
    Writer() { pool_.setMaxThreadCount(1); }
    ~Writer() { pool_.waitForDone(); }
    Writer(const Writer&) = delete;
    Writer& operator=(const Writer&) = delete;

    /// `job()` runs there and gives a Result; `then(result)` here, unless `context` is gone by then.
    template <class Job, class Then>
    void run(Job job, QObject* context, Then then) {
        pool_.start(
            [this, job = std::move(job), context = QPointer<QObject>(context), then = std::move(then)] {
                auto result = std::make_shared<decltype(job())>(guarded("writing", job));
                QMetaObject::invokeMethod(
                    &teller_,
                    [context, then, result] {
                        if (context) then(std::move(*result));
                    },
                    Qt::QueuedConnection);
            });
    }
    /// Until all that was asked for is done and told.
    void wait() {
        pool_.waitForDone();
        QCoreApplication::sendPostedEvents(&teller_, QEvent::MetaCall);
    }

  private:
    QObject teller_;
    QThreadPool pool_;
};

/// Where designs and the drawer are written.
Writer& keeper();
/// Where unsaved edits are handed to the system, from where no kill takes them; it waits for nothing else.
Writer& scribe();
/// Where they are waited for until they are on the disk, so that no edit waits for the one before.
Writer& syncer();
/// Where exports are computed and written; a long one does not hold up the keeper.
Writer& exporter();

}  // namespace elkit
