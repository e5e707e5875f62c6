;; Reckoning with pixels, 16 bytes at a time. All pointers are bytes.
(module
  (memory (export "memory") 1)

  ;; Each byte of a and b, strength 256ths of the way from the one to the other. Goes on to a whole number of 16 bytes.
  (func (export "blend") (param $a i32) (param $b i32) (param $out i32) (param $bytes i32) (param $strength i32)
    (local $to v128) (local $from v128) (local $half v128) (local $x v128) (local $y v128) (local $end i32)
    (local.set $to (i16x8.splat (local.get $strength)))
    (local.set $from (i16x8.splat (i32.sub (i32.const 256) (local.get $strength))))
    (local.set $half (i16x8.splat (i32.const 128)))
    (local.set $end (i32.add (local.get $a) (local.get $bytes)))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $a) (local.get $end)))
        (local.set $x (v128.load (local.get $a)))
        (local.set $y (v128.load (local.get $b)))
        (v128.store
          (local.get $out)
          (i8x16.narrow_i16x8_u
            (i16x8.shr_u
              (i16x8.add
                (i16x8.add
                  (i16x8.mul (i16x8.extend_low_i8x16_u (local.get $x)) (local.get $from))
                  (i16x8.mul (i16x8.extend_low_i8x16_u (local.get $y)) (local.get $to)))
                (local.get $half))
              (i32.const 8))
            (i16x8.shr_u
              (i16x8.add
                (i16x8.add
                  (i16x8.mul (i16x8.extend_high_i8x16_u (local.get $x)) (local.get $from))
                  (i16x8.mul (i16x8.extend_high_i8x16_u (local.get $y)) (local.get $to)))
                (local.get $half))
              (i32.const 8))))
        (local.set $a (i32.add (local.get $a) (i32.const 16)))
        (local.set $b (i32.add (local.get $b) (i32.const 16)))
        (local.set $out (i32.add (local.get $out) (i32.const 16)))
        (br $next))))

  ;; A row of pixels (3 bytes each) at other places. For each of count pixels there are three words at places: the bytes from
  ;; the row's beginning of the pixel to its left and to its right, and how far it is towards that one, in 256ths. One byte
  ;; behind the last pixel is written, too.
  (func (export "along") (param $row i32) (param $places i32) (param $out i32) (param $count i32)
    (local $part v128) (local $half v128)
    (local.set $half (i16x8.splat (i32.const 128)))
    (block $done
      (loop $next
        (br_if $done (i32.eqz (local.get $count)))
        (local.set $part (i16x8.splat (i32.load offset=8 (local.get $places))))
        (v128.store32_lane 0
          (local.get $out)
          (i8x16.narrow_i16x8_u
            (local.tee $part
              (i16x8.shr_u
                (i16x8.add
                  (i16x8.add
                    (i16x8.mul
                      (i16x8.extend_low_i8x16_u
                        (v128.load32_zero (i32.add (local.get $row) (i32.load (local.get $places)))))
                      (i16x8.sub (i16x8.splat (i32.const 256)) (local.get $part)))
                    (i16x8.mul
                      (i16x8.extend_low_i8x16_u
                        (v128.load32_zero (i32.add (local.get $row) (i32.load offset=4 (local.get $places)))))
                      (local.get $part)))
                  (local.get $half))
                (i32.const 8)))
            (local.get $part)))
        (local.set $places (i32.add (local.get $places) (i32.const 12)))
        (local.set $out (i32.add (local.get $out) (i32.const 3)))
        (local.set $count (i32.sub (local.get $count) (i32.const 1)))
        (br $next)))))
