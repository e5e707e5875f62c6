;; The cheapest path (cheapestPath.ts) from its first tick to its last, four levels at a time. All pointers are bytes, all
;; values 32-bit whole numbers but for the moves that are written down, which are bytes. A front is four rows, `row` bytes
;; apart: what it costs to be on a level having last moved up, or down, and before moving up, or down.
(module
  (memory (export "memory") 1)
  ;; The first front lies at 0. Returns where the last one begins, at its tick's lowest level.
  (func (export "walk")
    (param $ticks i32)
    (param $lowest i32) (param $highest i32)
    (param $margin i32) ;; before a front's lowest level
    (param $row i32)
    (param $widest i32)
    (param $prices i32) ;; of each tick: where what its lowest level costs stands, once for each kind of price
    (param $kinds i32)  ;; of prices, in bytes of such places
    (param $moves i32) (param $most i32) (param $turn i32)
    (param $climbed i32) (param $sunk i32)
    (result i32)
    (local $tick i32) (local $low i32) (local $before i32) (local $bytes i32) (local $levels i32)
    (local $from i32) (local $to i32)
    (local.set $from (local.get $margin))
    (local.set $to (i32.add (i32.shl (local.get $row) (i32.const 2)) (local.get $margin)))
    (local.set $tick (i32.const 0))
    (loop $each
      (local.set $low (i32.load (local.get $lowest)))
      (local.set $bytes
        (i32.shl
          (i32.add (i32.sub (i32.load (local.get $highest)) (local.get $low)) (i32.const 1))
          (i32.const 2)))
      (if (local.get $tick)
        (then
          (call $advance
            (i32.add (local.get $from) (i32.shl (i32.sub (local.get $low) (local.get $before)) (i32.const 2)))
            (local.get $to)
            (local.get $row)
            (local.get $bytes)
            (i32.add (i32.add (local.get $widest) (local.get $margin)) (i32.const 16))
            (local.get $prices)
            (local.get $kinds)
            (local.get $moves)
            (local.get $most)
            (local.get $turn)
            (local.get $climbed)
            (local.get $sunk))
          (local.set $levels (local.get $from))
          (local.set $from (local.get $to))
          (local.set $to (local.get $levels))))
      (local.set $before (local.get $low))
      (local.set $levels (i32.and (i32.add (i32.shr_u (local.get $bytes) (i32.const 2)) (i32.const 3)) (i32.const -4)))
      (local.set $prices (i32.add (local.get $prices) (local.get $kinds)))
      (local.set $climbed (i32.add (local.get $climbed) (local.get $levels)))
      (local.set $sunk (i32.add (local.get $sunk) (local.get $levels)))
      (local.set $lowest (i32.add (local.get $lowest) (i32.const 4)))
      (local.set $highest (i32.add (local.get $highest) (i32.const 4)))
      (local.set $tick (i32.add (local.get $tick) (i32.const 1)))
      (br_if $each (i32.lt_u (local.get $tick) (local.get $ticks))))
    (local.get $from))
  ;; One tick.
  (func $advance
    (param $from i32)  ;; the front before, at the tick's lowest level
    (param $to i32)    ;; the front after, at the tick's lowest level
    (param $row i32)
    (param $bytes i32) ;; of the tick's levels
    (param $end i32)   ;; of what has to be closed behind them, from `to` on
    (param $prices i32) (param $kinds i32) ;; where what the levels cost stands
    (param $moves i32) ;; what a move by 1, 2 … levels costs
    (param $most i32)
    (param $turn i32)
    (param $climbed i32) (param $sunk i32) ;; where the moves are written down
    (local $at i32) (local $move i32) (local $near i32)
    (local $rising v128) (local $falling v128) (local $up v128) (local $down v128)
    (local $cost v128) (local $by v128) (local $source v128) (local $way v128) (local $least v128)
    (local.set $least (i32x4.splat (i32.const 0x40000000)))
    (loop $levels
      (local.set $rising (v128.load (i32.add (local.get $from) (local.get $at))))
      (local.set $falling (v128.load (i32.add (i32.add (local.get $from) (local.get $row)) (local.get $at))))
      (local.set $up (i32x4.splat (i32.const 0)))
      (local.set $down (i32x4.splat (i32.const 0)))
      (local.set $move (i32.const 1))
      (loop $each
        (local.set $cost
          (v128.load32_splat (i32.add (local.get $moves) (i32.shl (i32.sub (local.get $move) (i32.const 1)) (i32.const 2)))))
        (local.set $by (i32x4.splat (local.get $move)))
        ;; From below: what stands there before moving up, and whether that is a turn.
        (local.set $near
          (i32.sub (i32.add (local.get $from) (local.get $at)) (i32.shl (local.get $move) (i32.const 2))))
        (local.set $source (v128.load (i32.add (local.get $near) (i32.shl (local.get $row) (i32.const 1)))))
        (local.set $way (i32x4.add (local.get $source) (local.get $cost)))
        (local.set $up
          (v128.bitselect
            (v128.or
              (local.get $by)
              (v128.and
                (i32x4.lt_s (local.get $source) (v128.load (local.get $near)))
                (i32x4.splat (i32.const 0x80))))
            (local.get $up)
            (i32x4.lt_s (local.get $way) (local.get $rising))))
        (local.set $rising (i32x4.min_s (local.get $rising) (local.get $way)))
        ;; From above.
        (local.set $near
          (i32.add (i32.add (i32.add (local.get $from) (local.get $row)) (local.get $at)) (i32.shl (local.get $move) (i32.const 2))))
        (local.set $source (v128.load (i32.add (local.get $near) (i32.shl (local.get $row) (i32.const 1)))))
        (local.set $way (i32x4.add (local.get $source) (local.get $cost)))
        (local.set $down
          (v128.bitselect
            (v128.or
              (local.get $by)
              (v128.and
                (i32x4.lt_s (local.get $source) (v128.load (local.get $near)))
                (i32x4.splat (i32.const 0x80))))
            (local.get $down)
            (i32x4.lt_s (local.get $way) (local.get $falling))))
        (local.set $falling (i32x4.min_s (local.get $falling) (local.get $way)))
        (local.set $move (i32.add (local.get $move) (i32.const 1)))
        (br_if $each (i32.le_s (local.get $move) (local.get $most))))
      ;; What is behind the last level is no way.
      (local.set $cost
        (v128.and
          (i32x4.ge_s
            (i32x4.add (i32x4.splat (local.get $at)) (v128.const i32x4 0 4 8 12))
            (i32x4.splat (local.get $bytes)))
          (i32x4.splat (i32.const 0x20000000))))
      (local.set $near (i32.const 0))
      (loop $each
        (local.set $cost
          (i32x4.add
            (local.get $cost)
            (v128.load (i32.add (i32.load (i32.add (local.get $prices) (local.get $near))) (local.get $at)))))
        (local.set $near (i32.add (local.get $near) (i32.const 4)))
        (br_if $each (i32.lt_u (local.get $near) (local.get $kinds))))
      (local.set $rising (i32x4.add (local.get $rising) (local.get $cost)))
      (local.set $falling (i32x4.add (local.get $falling) (local.get $cost)))
      (v128.store (i32.add (local.get $to) (local.get $at)) (local.get $rising))
      (v128.store (i32.add (i32.add (local.get $to) (local.get $row)) (local.get $at)) (local.get $falling))
      (local.set $least
        (i32x4.min_s (local.get $least) (i32x4.min_s (local.get $rising) (local.get $falling))))
      (local.set $up (i16x8.narrow_i32x4_u (local.get $up) (local.get $down)))
      (local.set $up (i8x16.narrow_i16x8_u (local.get $up) (local.get $up)))
      (local.set $near (i32.shr_u (local.get $at) (i32.const 2)))
      (v128.store32_lane 0 (i32.add (local.get $climbed) (local.get $near)) (local.get $up))
      (v128.store32_lane 1 (i32.add (local.get $sunk) (local.get $near)) (local.get $up))
      (local.set $at (i32.add (local.get $at) (i32.const 16)))
      (br_if $levels (i32.lt_s (local.get $at) (local.get $bytes))))

    ;; The least of four, in all four.
    (local.set $least
      (i32x4.min_s
        (local.get $least)
        (i8x16.shuffle 8 9 10 11 12 13 14 15 0 1 2 3 4 5 6 7 (local.get $least) (local.get $least))))
    (local.set $least
      (i32x4.min_s
        (local.get $least)
        (i8x16.shuffle 4 5 6 7 0 1 2 3 12 13 14 15 8 9 10 11 (local.get $least) (local.get $least))))

    ;; Costs are counted from the least one, and what moves from here cost is reckoned.
    (local.set $cost (i32x4.splat (local.get $turn)))
    (local.set $way (i32x4.splat (i32.const 0x40000000)))
    (local.set $at (i32.const 0))
    (loop $levels
      (local.set $near (i32.add (local.get $to) (local.get $at)))
      (local.set $up (i32x4.min_s (local.get $way) (i32x4.sub (v128.load (local.get $near)) (local.get $least))))
      (v128.store (local.get $near) (local.get $up))
      (local.set $near (i32.add (local.get $near) (local.get $row)))
      (local.set $down (i32x4.min_s (local.get $way) (i32x4.sub (v128.load (local.get $near)) (local.get $least))))
      (v128.store (local.get $near) (local.get $down))
      (local.set $near (i32.add (local.get $near) (local.get $row)))
      (v128.store (local.get $near) (i32x4.min_s (local.get $up) (i32x4.add (local.get $down) (local.get $cost))))
      (local.set $near (i32.add (local.get $near) (local.get $row)))
      (v128.store (local.get $near) (i32x4.min_s (local.get $down) (i32x4.add (local.get $up) (local.get $cost))))
      (local.set $at (i32.add (local.get $at) (i32.const 16)))
      (br_if $levels (i32.lt_s (local.get $at) (local.get $bytes))))

    ;; Behind the levels the front is closed.
    (local.set $at (local.get $bytes))
    (loop $behind
      (local.set $near (i32.add (local.get $to) (local.get $at)))
      (v128.store (local.get $near) (local.get $way))
      (local.set $near (i32.add (local.get $near) (local.get $row)))
      (v128.store (local.get $near) (local.get $way))
      (local.set $near (i32.add (local.get $near) (local.get $row)))
      (v128.store (local.get $near) (local.get $way))
      (local.set $near (i32.add (local.get $near) (local.get $row)))
      (v128.store (local.get $near) (local.get $way))
      (local.set $at (i32.add (local.get $at) (i32.const 16)))
      (br_if $behind (i32.lt_s (local.get $at) (local.get $end))))))
