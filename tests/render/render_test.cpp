#include <gtest/gtest.h>

#include <QPainter>
#include <QSvgRenderer>
#include <fstream>

#include "formats/svg.hpp"
#include "render/pages.hpp"
#include "support/designs.hpp"
#include "support/process.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

TEST(Pdf, HasThePagesInTheirSizeWithTextThatReadsBack) {
    TemporaryFolder folder;
    Drawing page;
    page.width = 210, page.height = 297;
    page.text(20, 40, "R1 = 4.7 kΩ, 15.2 mA", 5);
    Drawing second = page;
    second.items.clear();
    second.text(20, 40, "second page", 5);
    ASSERT_TRUE(write_pdf({page, second}, folder / "a.pdf", "Title"));
    const std::string text = pdf_text((folder / "a.pdf").string());
    EXPECT_NE(text.find("R1 = 4.7 kΩ, 15.2 mA"), std::string::npos) << text;
    EXPECT_NE(text.find("second page"), std::string::npos);
    const std::string info = run("pdfinfo " + (folder / "a.pdf").string()).out;
    EXPECT_NE(info.find("Pages:           2"), std::string::npos) << info;
    EXPECT_FALSE(write_pdf({page}, folder / "no/such.pdf", "Title"));
}

TEST(Svg, IsDrawnTheSameByAnIndependentRenderer) {
    const Design d = pier_lantern();
    const Drawing stave = test::stave(d.circuit, {}, stave_layout(d.circuit));
    QSvgRenderer svg(QByteArray::fromStdString(write_svg(stave)));
    ASSERT_TRUE(svg.isValid());
    const QImage ours = render_image(stave, 1);
    QImage theirs(ours.size(), QImage::Format_RGB32);
    theirs.fill(Qt::white);
    QPainter painter(&theirs);
    svg.render(&painter);
    double difference = 0;
    for (int y = 0; y < ours.height(); ++y)
        for (int x = 0; x < ours.width(); ++x)
            difference += std::abs(qGray(ours.pixel(x, y)) - qGray(theirs.pixel(x, y)));
    EXPECT_LT(difference / (ours.width() * ours.height()), 4) << "mean grey levels apart";
}

}  // namespace
}  // namespace elkit::test
