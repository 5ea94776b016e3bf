#include "app/shell/desk.hpp"

#include <QMetaObject>
#include <algorithm>
#include <chrono>
#include <utility>

#include "app/shell/background.hpp"

namespace elkit {

Desk::Desk(Store& store) : store_(store) {
    for (Lane* lane : {&quick_, &patient_}) lane->thread = std::thread([this, lane] { work(*lane); });
}

Desk::~Desk() {
    {
        const std::lock_guard lock(mutex_);
        quit_ = true;
        for (Lane* lane : {&quick_, &patient_}) lane->queue.clear(), lane->stop = true;
    }
    wake_.notify_all();
    for (Lane* lane : {&quick_, &patient_}) lane->thread.join();
}

void Desk::put(Lane& lane, Job job) {
    if (&lane == &patient_ && paused_) return;
    const std::lock_guard lock(mutex_);
    job.round = round_;
    const auto same = [&](const Job& other) { return other.name == job.name && other.key == job.key; };
    if (lane.running && same(*lane.running)) {
        lane.running->round = round_;
        return;
    }
    for (Job& waiting : lane.queue)
        if (same(waiting)) {
            waiting.round = round_, waiting.urgency = std::min(waiting.urgency, job.urgency);
            return;
        }
    lane.queue.push_back(std::move(job));
    wake_.notify_all();
}

void Desk::work(Lane& lane) {
    if (&lane == &patient_) give_way();
    std::unique_lock lock(mutex_);
    for (;;) {
        wake_.wait(lock, [&] { return quit_ || !lane.queue.empty(); });
        if (quit_) return;
        const auto next = std::min_element(lane.queue.begin(), lane.queue.end(),
                                           [](const Job& a, const Job& b) { return a.urgency < b.urgency; });
        lane.running = std::move(*next);
        lane.queue.erase(next);
        lane.stop = false;
        const auto run = lane.running->run;
        const QString name =
            QString::fromUtf8(lane.running->name.data(), static_cast<qsizetype>(lane.running->name.size()));
        lock.unlock();
        const Progress told = [&](std::string_view stage, double fraction) {
            const std::lock_guard inside(mutex_);
            stage_ = QString::fromUtf8(stage.data(), static_cast<qsizetype>(stage.size())),
            fraction_ = fraction;
            QMetaObject::invokeMethod(this, &Desk::progressed, Qt::QueuedConnection);
            return !lane.stop.load();
        };
        try {
            const StopScope scope(&lane.stop);
            if (&lane == &patient_) told(name.toStdString(), 0);
            run(told);
        } catch (const Stopped&) {  // nobody waits for it any more
        }
        lock.lock();
        lane.running.reset();
        ++lane.done;
        announce();
        if (idle(lane)) lane.done = 0;
        idle_.notify_all();
    }
}

/// Tells the interface's thread once for all that arrived until it looks. The lock is held.
void Desk::announce() {
    if (std::exchange(posted_, true)) return;
    QMetaObject::invokeMethod(
        this, [this] { deliver(); }, Qt::QueuedConnection);
}

bool Desk::deliver() {
    {
        const std::lock_guard lock(mutex_);
        if (!std::exchange(posted_, false)) return false;
    }
    emit arrived();
    return true;
}

void Desk::beginRound() {
    const std::lock_guard lock(mutex_);
    ++round_;
}

void Desk::endRound() {
    const std::lock_guard lock(mutex_);
    for (Lane* lane : {&quick_, &patient_}) {
        std::erase_if(lane->queue, [&](const Job& job) { return job.round < round_; });
        if (lane->running && lane->running->round < round_) lane->stop = true;
    }
}

bool Desk::busy() const {
    const std::lock_guard lock(mutex_);
    return !idle(quick_) || !idle(patient_);
}

bool Desk::patientBusy() const {
    const std::lock_guard lock(mutex_);
    return !idle(patient_);
}

void Desk::waitQuick(int milliseconds) {
    std::unique_lock lock(mutex_);
    idle_.wait_for(lock, std::chrono::milliseconds(milliseconds), [&] { return idle(quick_); });
}

void Desk::waitAll() {
    std::unique_lock lock(mutex_);
    idle_.wait(lock, [&] { return idle(quick_) && idle(patient_); });
}

void Desk::pause() {
    paused_ = true;
    const std::lock_guard lock(mutex_);
    patient_.queue.clear();
    patient_.stop = true;
}

void Desk::resume() { paused_ = false; }

QString Desk::stage() const {
    const std::lock_guard lock(mutex_);
    return stage_;
}

double Desk::fraction() const {
    const std::lock_guard lock(mutex_);
    return fraction_;
}

}  // namespace elkit
