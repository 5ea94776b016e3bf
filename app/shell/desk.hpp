#pragma once
#include <QObject>
#include <QString>
#include <atomic>
#include <condition_variable>
#include <functional>
#include <mutex>
#include <optional>
#include <thread>
#include <vector>

#include "store/store.hpp"

namespace elkit {

/// Where results are computed that the window asks for and the store does not have: one thread for what is
/// quick, one for what takes patience, each taking the most urgent first. What nobody asks for again after a
/// change is dropped, and stopped if it is under way.
class Desk : public QObject {
    Q_OBJECT
  public:
    explicit Desk(Store& store);
    ~Desk() override;

    /// Puts the query on the desk unless it lies there. Lower `urgency` goes first.
    template <class Query>
    void want(const Query& query, int urgency) {
        bool quick = false;
        if constexpr (requires { query.is_quick(); })
            quick = query.is_quick();
        else if constexpr (requires { Query::quick; })
            quick = Query::quick;
        put(quick ? quick_ : patient_, {Query::name, query.key(), urgency, 0,
                                        [this, query](const Progress& told) { store_.ask(query, told); }});
    }
    void beginRound();  ///< something changed: what is not wanted again …
    void endRound();    ///< … until here is dropped

    bool busy() const;         ///< anything wanted and not yet there
    bool patientBusy() const;  ///< anything that takes long
    void waitQuick(int milliseconds);
    void waitAll();
    bool deliver();  ///< says `arrived` now if something has; false if nothing had

    void pause();   ///< stops long work and takes no more of it
    void resume();  ///< until now
    bool paused() const { return paused_; }
    QString stage() const;
    double fraction() const;

  signals:
    void arrived();
    void progressed();

  private:
    struct Job {
        std::string_view name;
        Digest key;
        int urgency;
        long round;
        std::function<void(const Progress&)> run;
    };
    struct Lane {
        std::vector<Job> queue;
        std::optional<Job> running;
        std::atomic<bool> stop{false};
        std::thread thread;
        int done = 0;  ///< since it was last idle
    };
    void put(Lane& lane, Job job);
    void work(Lane& lane);
    void announce();
    static bool idle(const Lane& lane) { return lane.queue.empty() && !lane.running; }

    Store& store_;
    mutable std::mutex mutex_;
    std::condition_variable wake_, idle_;
    Lane quick_, patient_;
    long round_ = 0;
    bool quit_ = false, posted_ = false;
    std::atomic<bool> paused_{false};
    QString stage_;
    double fraction_ = 0;
};

}  // namespace elkit
