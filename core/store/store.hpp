#pragma once
#include <condition_variable>
#include <functional>
#include <map>
#include <memory>
#include <mutex>
#include <string>
#include <string_view>
#include <thread>
#include <unordered_map>

#include "quantity/progress.hpp"
#include "quantity/result.hpp"
#include "quantity/stop.hpp"
#include "store/digest.hpp"

namespace elkit {

class Store;

/// A shared result, or nothing yet.
template <class T>
class Answer {
  public:
    Answer() = default;
    explicit Answer(std::shared_ptr<const Result<T>> result) : result_(std::move(result)) {}
    bool there() const { return result_ != nullptr; }
    explicit operator bool() const { return result_ && result_->has_value(); }
    const T& operator*() const { return result_->value(); }
    const T* operator->() const { return &result_->value(); }
    const Error& error() const { return result_->error(); }
    const Result<T>& result() const { return *result_; }

  private:
    std::shared_ptr<const Result<T>> result_;
};

/// What a computation may ask for on its way, and tell of itself.
class Ask {
  public:
    explicit Ask(Store& store, const Progress& progress = {}) : store_(&store), progress_(progress) {}
    /// The result of `query`, from the store or computed now and kept there.
    template <class Query>
    Answer<typename Query::Value> operator()(const Query& query) const;
    /// Tells how far the work at hand is.
    void tell(std::string_view stage, double fraction) const {
        if (progress_) progress_(stage, fraction);
    }
    const Progress& progress() const { return progress_; }
    /// The same, for what runs beside other work that tells of itself.
    Ask quiet() const { return Ask(*store_); }

  private:
    Store* store_;
    Progress progress_;
};

/// Keeps results by what they were computed from. A query is a value with
///   using Value = …;                        what it gives
///   static constexpr std::string_view name  of its kind, for people
///   Digest key() const                      the content that it depends on, and nothing else
///   Result<Value> compute(const Ask&) const a pure function of that content
/// and, where they apply, `weight` (what it takes up in the store, in operating points) and `quick` (true: a
/// few milliseconds at most for usual circuits, so that it need not wait behind long work), or `is_quick()`
/// of one that is so for some contents. Errors are results like others. Safe to use from any thread: who asks
/// for what another thread is computing waits for it. What was not asked for longest goes first when it grows
/// too large.
class Store {
  public:
    explicit Store(std::size_t limit = 6000) : limit_(limit) {}

    template <class Query>
    Answer<typename Query::Value> find(const Query& query) {
        using Held = const Result<typename Query::Value>;
        return Answer<typename Query::Value>(
            std::static_pointer_cast<Held>(find_entry({Query::name, query.key()})));
    }
    /// Throws Stopped if this thread's StopScope says so before it is done.
    template <class Query>
    Answer<typename Query::Value> ask(const Query& query, const Progress& progress = {}) {
        using Held = const Result<typename Query::Value>;
        return Answer<typename Query::Value>(std::static_pointer_cast<Held>(
            ask_entry({Query::name, query.key()}, weight_of<Query>(), [&]() -> std::shared_ptr<const void> {
                return std::make_shared<Held>(guarded(
                    std::string(Query::name),
                    [&]() -> Result<typename Query::Value> { return query.compute(Ask(*this, progress)); }));
            })));
    }
    std::size_t computed() const;                       ///< computations so far
    std::size_t computed(std::string_view name) const;  ///< of one kind of query
    std::map<std::string, std::size_t> counts() const;
    /// Computations of a content that had been computed before (and was dropped since, or should have been
    /// found).
    std::size_t repeated() const;

  private:
    struct Key {
        std::string_view name;
        Digest content;
        bool operator==(const Key&) const = default;
    };
    struct Hash {
        std::size_t operator()(const Key& key) const {
            return static_cast<std::size_t>(key.content.a) ^ std::hash<std::string_view>{}(key.name);
        }
    };
    struct Entry {
        std::shared_ptr<const void> value;  ///< null while it is computed
        std::thread::id by;
        std::size_t weight = 1, used = 0;
    };
    template <class Query>
    static constexpr std::size_t weight_of() {
        if constexpr (requires { Query::weight; }) return Query::weight;
        return 1;
    }
    std::shared_ptr<const void> find_entry(const Key& key);
    std::shared_ptr<const void> ask_entry(const Key& key, std::size_t weight,
                                          const std::function<std::shared_ptr<const void>()>& compute);
    void make_room();

    mutable std::mutex mutex_;
    std::condition_variable arrived_;
    std::unordered_map<Key, Entry, Hash> entries_;
    std::unordered_map<Key, std::size_t, Hash> times_;
    std::size_t limit_, weight_ = 0, clock_ = 0;
};

template <class Query>
Answer<typename Query::Value> Ask::operator()(const Query& query) const {
    return store_->ask(query, progress_);
}

}  // namespace elkit
