// What a file is stays what it is when it is written; what is no file is refused.
#include <gtest/gtest.h>
#include <sys/stat.h>
#include <sys/xattr.h>
#include <unistd.h>

#include <fstream>

#include "design/file.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {
namespace fs = std::filesystem;

mode_t mode_of(const fs::path& path) {
    struct stat about {};
    ::stat(path.c_str(), &about);
    return about.st_mode & 07777;
}

std::size_t files_in(const fs::path& folder) {
    return static_cast<std::size_t>(std::distance(fs::directory_iterator(folder), fs::directory_iterator()));
}

TEST(Writing, KeepsPermissions) {
    test::TemporaryFolder folder;
    const auto path = folder / "x.json";
    for (const mode_t mode : {0600U, 0640U, 0664U, 0755U}) {
        ASSERT_TRUE(write_file(path, "one"));
        ::chmod(path.c_str(), mode);
        ASSERT_TRUE(write_file(path, "two"));
        EXPECT_EQ(mode_of(path), mode);
    }
    const mode_t before = ::umask(0077);
    ASSERT_TRUE(write_file(folder / "new.json", "one"));
    EXPECT_EQ(mode_of(folder / "new.json"), 0600U)
        << "a new file is as private as the user wants files to be";
    ::umask(before);
}

TEST(Writing, KeepsAccessListsAndNotes) {
    test::TemporaryFolder folder;
    const auto path = folder / "x.json";
    ASSERT_TRUE(write_file(path, "one"));
    // version 2; owner rw, user 1234 r, group r, mask r, others nothing: tag, permissions, id of each
    const unsigned char list[] = {2, 0,    0,   0,   1,   0,   6,  0, 255, 255, 255, 255, 2,   0,  4,
                                  0, 0xd2, 4,   0,   0,   4,   0,  4, 0,   255, 255, 255, 255, 16, 0,
                                  4, 0,    255, 255, 255, 255, 32, 0, 0,   0,   255, 255, 255, 255};
    if (::setxattr(path.c_str(), "user.note", "hello", 5, 0) != 0) GTEST_SKIP() << "no notes on this disk";
    const bool lists = ::setxattr(path.c_str(), "system.posix_acl_access", list, sizeof list, 0) == 0;
    ASSERT_TRUE(write_file(path, "two"));
    char back[64];
    EXPECT_EQ(::getxattr(path.c_str(), "user.note", back, sizeof back), 5);
    if (lists) {
        EXPECT_EQ(::getxattr(path.c_str(), "system.posix_acl_access", back, sizeof back),
                  ssize_t(sizeof list));
        EXPECT_EQ(std::string(back, sizeof list),
                  std::string(reinterpret_cast<const char*>(list), sizeof list));
    }
}

TEST(Writing, FollowsLinksAndKeepsThem) {
    test::TemporaryFolder folder;
    const auto real = folder / "real.json", link = folder / "link.json", second = folder / "second.json";
    ASSERT_TRUE(write_file(real, "one"));
    fs::create_symlink("real.json", link);
    ASSERT_TRUE(write_file(link, "two"));
    EXPECT_TRUE(fs::is_symlink(link));
    EXPECT_EQ(read_file(real).value(), "two");
    fs::create_hard_link(real, second);
    ASSERT_TRUE(write_file(real, "three"));
    EXPECT_EQ(read_file(second).value(), "three") << "both names go on naming one file";
    EXPECT_EQ(fs::hard_link_count(real), 2u);
    EXPECT_EQ(files_in(folder.path()), 3u) << "nothing is left over";
    fs::create_symlink("not/yet.json", folder / "dangling.json");
    EXPECT_FALSE(write_file(folder / "dangling.json", "x"));
}

TEST(Writing, RefusesWhatIsNoFile) {
    test::TemporaryFolder folder;
    const auto pipe = folder / "pipe";
    ASSERT_EQ(::mkfifo(pipe.c_str(), 0600), 0);
    for (const fs::path& path : {pipe, folder.path(), fs::path("/dev/full"), fs::path(),
                                 fs::path("/no/such/x"), folder / std::string(300, 'n')}) {
        const auto written = write_file(path, "x");
        ASSERT_FALSE(written) << path;
        EXPECT_EQ(written.error().fault, Fault::file);
        EXPECT_FALSE(written.error().place.empty());
        const auto read = read_file(path);
        ASSERT_FALSE(read) << path << " is not read either, and nobody waits for it";
        EXPECT_FALSE(read.error().place.empty());
    }
    EXPECT_EQ(fs::status(pipe).type(), fs::file_type::fifo) << "the pipe is still one";
    EXPECT_FALSE(read_file("/dev/zero"));
    EXPECT_EQ(files_in(folder.path()), 1u);
    ASSERT_TRUE(write_file(folder / std::string(255, 'n'), "x")) << "the longest name there can be";
    ASSERT_TRUE(write_file(folder / "bytes\xff\xfe.json", "x")) << "a name that is no text";
    EXPECT_EQ(read_file(folder / "bytes\xff\xfe.json").value(), "x");
}

TEST(Writing, LargeFilesAreRefusedBeforeTheyFillTheMemory) {
    test::TemporaryFolder folder;
    const auto path = folder / "sparse";
    std::ofstream(path).put('x');
    fs::resize_file(path, std::uintmax_t{1} << 40);  // a terabyte of nothing
    const auto read = read_file(path);
    ASSERT_FALSE(read);
    EXPECT_NE(read.error().found.find("8 MB"), std::string::npos);
}

TEST(Writing, AppendsAfterWhatIsKnownToBeThere) {
    test::TemporaryFolder folder;
    const auto path = folder / "log";
    ASSERT_TRUE(write_file(path, "head"));
    ASSERT_TRUE(append_file(path, 4, "-one"));
    std::ofstream(path, std::ios::app) << "half of an earlier try";
    ASSERT_TRUE(append_file(path, 8, "-two"));
    EXPECT_EQ(read_file(path).value(), "head-one-two");
    EXPECT_FALSE(append_file(path, 99, "x")) << "it is shorter than it should be";
    EXPECT_FALSE(append_file(folder / "missing", 0, "x"));
    fs::create_symlink("log", folder / "link");
    EXPECT_FALSE(append_file(folder / "link", 12, "x"));
}

}  // namespace
}  // namespace elkit
