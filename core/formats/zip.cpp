#include "formats/zip.hpp"

#include <zip.h>

namespace elkit {
namespace {

Error failed(const char* what) {
    return {Fault::program, "the ZIP", std::string("cannot be made: ") + what, ""};
}

}  // namespace

Result<std::string> zip_of(const std::vector<std::pair<std::string, std::string>>& files) {
    zip_error_t error;
    zip_error_init(&error);
    zip_source_t* memory = zip_source_buffer_create(nullptr, 0, 0, &error);
    if (!memory) return failed(zip_error_strerror(&error));
    zip_source_keep(memory);  // read again below
    zip_t* archive = zip_open_from_source(memory, ZIP_TRUNCATE, &error);
    if (!archive) {
        zip_source_free(memory), zip_source_free(memory);
        return failed(zip_error_strerror(&error));
    }
    for (const auto& [name, content] : files) {
        zip_source_t* source = zip_source_buffer(archive, content.data(), content.size(), 0);
        const zip_int64_t at = source ? zip_file_add(archive, name.c_str(), source, ZIP_FL_ENC_UTF_8) : -1;
        if (at < 0) {
            if (source) zip_source_free(source);
            zip_discard(archive), zip_source_free(memory);
            return failed(name.c_str());
        }
        zip_file_set_mtime(archive, static_cast<zip_uint64_t>(at), 315532800, 0);  // 1980: the same each time
    }
    if (zip_close(archive) != 0) {
        zip_discard(archive), zip_source_free(memory);
        return failed("it cannot be closed");
    }
    zip_stat_t size;
    std::string out;
    if (zip_source_open(memory) != 0 || zip_source_stat(memory, &size) != 0) {
        zip_source_free(memory);
        return failed("it cannot be read");
    }
    out.resize(size.size);
    const zip_int64_t read = zip_source_read(memory, out.data(), out.size());
    zip_source_close(memory);
    zip_source_free(memory);
    if (read != static_cast<zip_int64_t>(out.size())) return failed("it is shorter than it says");
    return out;
}

}  // namespace elkit
