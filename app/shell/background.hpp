#pragma once
#include <QCoreApplication>
#include <QElapsedTimer>
#include <QMetaObject>
#include <QThreadPool>
#include <atomic>
#include <functional>
#include <memory>

#include "quantity/progress.hpp"

namespace elkit {

/// Runs work on another thread; newer work supersedes older, whose result is dropped. Lives and is used on
/// the interface's thread.
class Background {
  public:
    Background() : generation_(std::make_shared<std::atomic<int>>(0)) {}
    ~Background() { stop(); }
    Background(const Background&) = delete;
    Background& operator=(const Background&) = delete;

    void stop() { ++*generation_, running_ = false; }
    bool running() const { return running_; }

    /// `work(progress)` runs elsewhere; `then(result)` here, unless stopped or superseded; `told(fraction)`
    /// here, about every tenth of a second.
    template <class Work, class Then>
    void start(Work work, Then then, std::function<void(double)> told = {}) {
        const int mine = ++*generation_;
        running_ = true;
        QThreadPool::globalInstance()->start([this, mine, generation = generation_, work = std::move(work),
                                              then = std::move(then), told = std::move(told)] {
            const auto here = [&](auto what) {
                QMetaObject::invokeMethod(qApp, [mine, generation, what = std::move(what)] {
                    if (generation->load() == mine) what();
                });
            };
            QElapsedTimer since;
            since.start();
            const Progress progress = [&](std::string_view, double fraction) {
                if (told && since.elapsed() > 100) {
                    since.restart();
                    here([told, fraction] { told(fraction); });
                }
                return generation->load() == mine;
            };
            auto result = std::make_shared<decltype(work(progress))>(work(progress));
            here([this, then, result] {
                running_ = false;
                then(std::move(*result));
            });
        });
    }

  private:
    std::shared_ptr<std::atomic<int>> generation_;  // outlives this while work is going on
    bool running_ = false;
};

}  // namespace elkit
