#pragma once
#include <cstddef>
#include <vector>

#include "board/copper/layout.hpp"

namespace elkit {

/// How large a board of copper is: before its parts lie on it, and once they and their tracks do. Sides that
/// are chosen stay as they are.
class BoardSpace {
  public:
    /// `put`: parts with a place of their own, by part; `of_face`: those of them whose place the face says,
    /// to each other. `drawn`: an outline to keep, drawn in the frame of the face, or empty.
    BoardSpace(const std::vector<CopperPart>& parts, std::vector<bool> put, std::vector<std::size_t> of_face,
               const BoardChoices& choices, const Making& making, Ring drawn);

    /// An outline so many times as large as what lies on it.
    Ring outline_for(double spacious) const;
    /// What the face has keeps its places to each other, in the middle of the board, and to a drawn outline.
    void centre_face(CopperLayout& layout) const;
    /// True if the outline may become smaller than it was.
    bool automatic() const;
    /// The outline as near to the parts as the method allows, with a way around for tracks.
    void crop(CopperLayout& layout) const;
    /// Without what the tracks left free.
    void trim(CopperLayout& layout) const;

  private:
    Box face_box() const;
    double face_reach() const;
    Box put_by_hand() const;
    double needed() const;
    double longest() const;
    Ring rectangle(double width, double height) const;
    double corner() const;
    void resize(CopperLayout& layout, Box box) const;

    const std::vector<CopperPart>& parts_;
    std::vector<bool> put_;
    std::vector<std::size_t> of_face_;
    const BoardChoices& choices_;
    const Making& making_;
    Ring drawn_;
    Point corner_{};  // where its box began
};

}  // namespace elkit
