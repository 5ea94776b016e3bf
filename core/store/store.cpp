#include "store/store.hpp"

#include <algorithm>
#include <chrono>
#include <vector>

namespace elkit {

std::shared_ptr<const void> Store::find_entry(const Key& key) {
    const std::lock_guard lock(mutex_);
    const auto found = entries_.find(key);
    if (found == entries_.end()) return nullptr;
    found->second.used = ++clock_;
    return found->second.value;
}

std::shared_ptr<const void> Store::ask_entry(const Key& key, std::size_t weight,
                                             const std::function<std::shared_ptr<const void>()>& compute) {
    using namespace std::chrono_literals;
    std::unique_lock lock(mutex_);
    for (;;) {
        const auto found = entries_.find(key);
        if (found == entries_.end()) break;
        if (found->second.value) {
            found->second.used = ++clock_;
            return found->second.value;
        }
        arrived_.wait_for(lock, 5ms);
        stop_point();  // the one who computes it may have stopped, or we may
    }
    entries_[key] = {nullptr, std::this_thread::get_id(), weight, ++clock_};
    lock.unlock();
    std::shared_ptr<const void> value;
    try {
        value = compute();
    } catch (...) {
        lock.lock();
        entries_.erase(key);
        arrived_.notify_all();
        throw;
    }
    lock.lock();
    ++times_[key];
    Entry& entry = entries_[key];
    entry.value = value, entry.used = ++clock_;
    weight_ += weight;
    make_room();
    arrived_.notify_all();
    return value;
}

/// Drops the half that was not used longest.
void Store::make_room() {
    if (weight_ <= limit_) return;
    std::vector<std::size_t> ages;
    for (const auto& [key, entry] : entries_)
        if (entry.value) ages.push_back(entry.used);
    std::nth_element(ages.begin(), ages.begin() + static_cast<std::ptrdiff_t>(ages.size() / 2), ages.end());
    const std::size_t oldest = ages[ages.size() / 2];
    std::erase_if(entries_, [&](const auto& item) {
        if (!item.second.value || item.second.used >= oldest) return false;
        weight_ -= item.second.weight;
        return true;
    });
    if (times_.size() > 50 * limit_) times_.clear();
}

std::size_t Store::computed() const {
    const std::lock_guard lock(mutex_);
    std::size_t n = 0;
    for (const auto& [key, times] : times_) n += times;
    return n;
}

std::size_t Store::computed(std::string_view name) const {
    const std::lock_guard lock(mutex_);
    std::size_t n = 0;
    for (const auto& [key, times] : times_)
        if (key.name == name) n += times;
    return n;
}

std::map<std::string, std::size_t> Store::counts() const {
    const std::lock_guard lock(mutex_);
    std::map<std::string, std::size_t> all;
    for (const auto& [key, times] : times_) all[std::string(key.name)] += times;
    return all;
}

std::size_t Store::repeated() const {
    const std::lock_guard lock(mutex_);
    std::size_t n = 0;
    for (const auto& [key, times] : times_) n += times - 1;
    return n;
}

}  // namespace elkit
