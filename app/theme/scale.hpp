#pragma once

namespace elkit {

constexpr int interface_scales[] = {100, 125, 150, 175, 200};  // percent

/// The scale of the whole interface that a person chose [percent]; 100 where nobody did.
int interface_scale();
/// From the next start on.
void choose_interface_scale(int percent);
/// Hands the chosen scale to Qt, before the application is made; QT_SCALE_FACTOR in the environment is left
/// as it is.
void take_interface_scale();

}  // namespace elkit
