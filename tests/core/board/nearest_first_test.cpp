// The queue of the router.
#include "board/copper/nearest_first.hpp"

#include <gtest/gtest.h>

#include <random>

namespace elkit::test {
namespace {

TEST(NearestFirst, GivesWhatIsNearestToWithinABucketAndAllOfIt) {
    std::mt19937 random(5);
    std::uniform_real_distribution<float> far(0, 300);
    NearestFirst<float> open;
    for (int k = 0; k < 2000; ++k) {
        const float f = far(random);
        open.push(f, f);
    }
    float last = 0;
    int count = 0;
    for (; !open.empty(); ++count) {
        const float nearest = open.pop();
        EXPECT_GT(nearest, last - 0.032F);
        last = std::max(last, nearest);
    }
    EXPECT_EQ(count, 2000);
}

TEST(NearestFirst, TakesWhatIsNearerThanWhatItGaveLast) {
    NearestFirst<int> open;
    open.push(7, 7), open.push(9, 9);
    EXPECT_EQ(open.pop(), 7);
    open.push(2, 2), open.push(1e9F, 10);  // beyond its buckets
    EXPECT_EQ(open.pop(), 2);
    EXPECT_EQ(open.pop(), 9);
    EXPECT_EQ(open.pop(), 10);
    EXPECT_TRUE(open.empty());
}

TEST(NearestFirst, ForgetsWhatWasLeft) {
    NearestFirst<int> open;
    open.push(3, 3), open.push(40, 40), open.push(2, 2);
    EXPECT_EQ(open.pop(), 2);
    open.clear();
    EXPECT_TRUE(open.empty());
    open.push(50, 50);
    EXPECT_EQ(open.pop(), 50);
    EXPECT_TRUE(open.empty());
}

}  // namespace
}  // namespace elkit::test
