// Shared by the other files of kernels/: inlined, none of it is exported from a module.

/** Four bytes as floats. */
@inline
export function four(at: usize): v128 {
  return f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(at))));
}
