#include "render/pages.hpp"

#include <QBuffer>
#include <QPageSize>
#include <QPdfWriter>

#include "design/file.hpp"
#include "render/paint.hpp"

namespace elkit {

Result<void> write_pdf(const std::vector<Drawing>& pages, const std::filesystem::path& path,
                       const std::string& title) {
    QByteArray bytes;
    {
        QBuffer buffer(&bytes);
        buffer.open(QIODevice::WriteOnly);
        QPdfWriter pdf(&buffer);
        pdf.setTitle(QString::fromStdString(title));
        pdf.setCreator(QStringLiteral("Elkit"));
        pdf.setResolution(1200);
        pdf.setPageMargins(QMarginsF(0, 0, 0, 0));
        QPainter painter;
        bool first = true;
        for (const Drawing& page : pages) {
            pdf.setPageSize(QPageSize(QSizeF(page.width, page.height), QPageSize::Millimeter, QString(),
                                      QPageSize::FuzzyMatch));
            if (first && !painter.begin(&pdf))
                return Error{Fault::file, path.string(), "the PDF cannot be painted", ""};
            if (!first) pdf.newPage();
            first = false;
            painter.save();
            const double dots = pdf.resolution() / 25.4;
            painter.scale(dots, dots);
            paint(painter, page, paper_palette());
            painter.restore();
        }
        painter.end();
    }
    return write_file(path, std::string_view(bytes.constData(), static_cast<std::size_t>(bytes.size())));
}

QImage render_image(const Drawing& drawing, double pixels_per_unit) {
    QImage image(qRound(drawing.width * pixels_per_unit), qRound(drawing.height * pixels_per_unit),
                 QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.scale(pixels_per_unit, pixels_per_unit);
    paint(painter, drawing, paper_palette());
    return image;
}

}  // namespace elkit
