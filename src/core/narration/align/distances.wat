;; Distances of one frame from many. A frame is 28 32-bit floats, the last two of them 0; frames of a list follow each
;; other. All pointers are bytes.
(module
  (memory (export "memory") 1)
  (func (export "distances") (param $frame i32) (param $list i32) (param $count i32) (param $out i32)
    (local $a v128) (local $b v128) (local $c v128) (local $d v128) (local $e v128) (local $f v128) (local $g v128)
    (local $sum v128) (local $x v128)
    (local.set $a (v128.load offset=0 (local.get $frame)))
    (local.set $b (v128.load offset=16 (local.get $frame)))
    (local.set $c (v128.load offset=32 (local.get $frame)))
    (local.set $d (v128.load offset=48 (local.get $frame)))
    (local.set $e (v128.load offset=64 (local.get $frame)))
    (local.set $f (v128.load offset=80 (local.get $frame)))
    (local.set $g (v128.load offset=96 (local.get $frame)))
    (block $done
      (loop $next
        (br_if $done (i32.eqz (local.get $count)))
        (local.set $sum
          (f32x4.add
            (f32x4.add
              (f32x4.add
                (f32x4.mul (local.tee $x (f32x4.sub (local.get $a) (v128.load offset=0 (local.get $list)))) (local.get $x))
                (f32x4.mul (local.tee $x (f32x4.sub (local.get $b) (v128.load offset=16 (local.get $list)))) (local.get $x)))
              (f32x4.add
                (f32x4.mul (local.tee $x (f32x4.sub (local.get $c) (v128.load offset=32 (local.get $list)))) (local.get $x))
                (f32x4.mul (local.tee $x (f32x4.sub (local.get $d) (v128.load offset=48 (local.get $list)))) (local.get $x))))
            (f32x4.add
              (f32x4.add
                (f32x4.mul (local.tee $x (f32x4.sub (local.get $e) (v128.load offset=64 (local.get $list)))) (local.get $x))
                (f32x4.mul (local.tee $x (f32x4.sub (local.get $f) (v128.load offset=80 (local.get $list)))) (local.get $x)))
              (f32x4.mul (local.tee $x (f32x4.sub (local.get $g) (v128.load offset=96 (local.get $list)))) (local.get $x)))))
        (f32.store
          (local.get $out)
          (f32.sqrt
            (f32.add
              (f32.add
                (f32x4.extract_lane 0 (local.get $sum))
                (f32x4.extract_lane 1 (local.get $sum)))
              (f32.add
                (f32x4.extract_lane 2 (local.get $sum))
                (f32x4.extract_lane 3 (local.get $sum))))))
        (local.set $list (i32.add (local.get $list) (i32.const 112)))
        (local.set $out (i32.add (local.get $out) (i32.const 4)))
        (local.set $count (i32.sub (local.get $count) (i32.const 1)))
        (br $next)))))
