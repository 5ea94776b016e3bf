#pragma once
#include <sys/resource.h>
#include <unistd.h>

#include <QCoreApplication>
#include <QElapsedTimer>
#include <QMetaObject>
#include <QThreadPool>
#include <atomic>
#include <functional>
#include <memory>

#include "quantity/progress.hpp"
#include "quantity/result.hpp"
#include "quantity/stop.hpp"

namespace elkit {

/// Lets the interface go before this thread, and before those that it starts, when cores are few.
inline void give_way() { setpriority(PRIO_PROCESS, static_cast<id_t>(gettid()), 10); }

/// Runs work that no query stands for (a recording, an export) on another thread; newer work supersedes
/// older, which stops at its next stop_point(). Lives and is used on the interface's thread.
class Background {
  public:
    Background() = default;
    ~Background() { stop(); }
    Background(const Background&) = delete;
    Background& operator=(const Background&) = delete;

    void stop() {
        if (superseded_) *superseded_ = true;
        superseded_.reset();
    }
    bool running() const { return superseded_ != nullptr; }

    /// `work(progress)` runs elsewhere and gives a Result; `then(result)` here, unless stopped or superseded;
    /// `told(fraction)` here, about every tenth of a second.
    template <class Work, class Then>
    void start(Work work, Then then, std::function<void(double)> told = {}) {
        stop();
        superseded_ = std::make_shared<std::atomic<bool>>(false);
        QThreadPool::globalInstance()->start([this, superseded = superseded_, work = std::move(work),
                                              then = std::move(then), told = std::move(told)] {
            give_way();
            const auto here = [&](auto what) {
                QMetaObject::invokeMethod(qApp, [superseded, what = std::move(what)] {
                    if (!*superseded) what();
                });
            };
            QElapsedTimer since;
            since.start();
            const Progress progress = [&](std::string_view, double fraction) {
                if (told && since.elapsed() > 100) {
                    since.restart();
                    here([told, fraction] { told(fraction); });
                }
                return !*superseded;
            };
            try {
                const StopScope scope(superseded.get());
                auto result = std::make_shared<decltype(work(progress))>(
                    guarded("computing", [&] { return work(progress); }));
                here([this, then, result] {
                    superseded_.reset();
                    then(std::move(*result));
                });
            } catch (const Stopped&) {  // nobody waits for it any more
            }
        });
    }

  private:
    std::shared_ptr<std::atomic<bool>> superseded_;  // outlives this while work is going on
};

}  // namespace elkit
