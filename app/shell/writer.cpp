#include "app/shell/writer.hpp"

namespace elkit {

Writer& keeper() {
    static Writer writer;
    return writer;
}

Writer& scribe() {
    static Writer writer;
    return writer;
}

Writer& syncer() {
    static Writer writer;
    return writer;
}

Writer& exporter() {
    static Writer writer;
    return writer;
}

}  // namespace elkit
