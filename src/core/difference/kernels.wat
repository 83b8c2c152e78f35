;; The inner loops of the visible difference, four floats at a time. Compiled into kernels-wasm.ts by scripts/wasm.mjs.
;; Counts are in floats and multiples of four.
(module
  (import "host" "memory" (memory 1))

  ;; Linear light of one row of 8-bit pixels of `step` bytes from `source` into three planes, by three tables of 256 floats in a row at `tables`;
  ;; `g` and `v` are the offsets of green and blue in a pixel.
  (func (export "light8") (param $source i32) (param $step i32) (param $g i32) (param $v i32) (param $tables i32) (param $out0 i32) (param $out1 i32) (param $out2 i32) (param $count i32)
    (local $i i32)
    (local.set $count (i32.shl (local.get $count) (i32.const 2)))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $i) (local.get $count)))
        (f32.store (i32.add (local.get $out0) (local.get $i))
          (f32.load (i32.add (local.get $tables) (i32.shl (i32.load8_u (local.get $source)) (i32.const 2)))))
        (f32.store (i32.add (local.get $out1) (local.get $i))
          (f32.load offset=1024 (i32.add (local.get $tables) (i32.shl (i32.load8_u (i32.add (local.get $source) (local.get $g))) (i32.const 2)))))
        (f32.store (i32.add (local.get $out2) (local.get $i))
          (f32.load offset=2048 (i32.add (local.get $tables) (i32.shl (i32.load8_u (i32.add (local.get $source) (local.get $v))) (i32.const 2)))))
        (local.set $source (i32.add (local.get $source) (local.get $step)))
        (local.set $i (i32.add (local.get $i) (i32.const 4)))
        (br $next))))

  ;; Linear light in three planes to Oklab in three planes; at `m` stand two matrices of nine. Cube roots: a guess from the bits
  ;; (within 3.5 %), then one step of Halley's method (within 0.003 %).
  (func (export "oklab") (param $r i32) (param $g i32) (param $v i32) (param $m i32) (param $l i32) (param $a i32) (param $b i32) (param $count i32)
    (local $i i32) (local $x v128) (local $y v128) (local $z v128) (local $p v128) (local $q v128) (local $s v128) (local $t v128) (local $w v128)
    (local $third v128) (local $magic v128) (local $least v128)
    (local $c0 v128) (local $c1 v128) (local $c2 v128) (local $c3 v128) (local $c4 v128) (local $c5 v128) (local $c6 v128) (local $c7 v128) (local $c8 v128) (local $c9 v128) (local $c10 v128) (local $c11 v128) (local $c12 v128) (local $c13 v128) (local $c14 v128) (local $c15 v128) (local $c16 v128) (local $c17 v128)
    (local.set $c0 (v128.load32_splat offset=0 (local.get $m)))
    (local.set $c1 (v128.load32_splat offset=4 (local.get $m)))
    (local.set $c2 (v128.load32_splat offset=8 (local.get $m)))
    (local.set $c3 (v128.load32_splat offset=12 (local.get $m)))
    (local.set $c4 (v128.load32_splat offset=16 (local.get $m)))
    (local.set $c5 (v128.load32_splat offset=20 (local.get $m)))
    (local.set $c6 (v128.load32_splat offset=24 (local.get $m)))
    (local.set $c7 (v128.load32_splat offset=28 (local.get $m)))
    (local.set $c8 (v128.load32_splat offset=32 (local.get $m)))
    (local.set $c9 (v128.load32_splat offset=36 (local.get $m)))
    (local.set $c10 (v128.load32_splat offset=40 (local.get $m)))
    (local.set $c11 (v128.load32_splat offset=44 (local.get $m)))
    (local.set $c12 (v128.load32_splat offset=48 (local.get $m)))
    (local.set $c13 (v128.load32_splat offset=52 (local.get $m)))
    (local.set $c14 (v128.load32_splat offset=56 (local.get $m)))
    (local.set $c15 (v128.load32_splat offset=60 (local.get $m)))
    (local.set $c16 (v128.load32_splat offset=64 (local.get $m)))
    (local.set $c17 (v128.load32_splat offset=68 (local.get $m)))
    (local.set $third (f32x4.splat (f32.const 0.33333333)))
    (local.set $magic (f32x4.splat (f32.const 709921077)))
    (local.set $least (f32x4.splat (f32.const 1e-9)))
    (local.set $count (i32.shl (local.get $count) (i32.const 2)))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $i) (local.get $count)))
        (local.set $x (v128.load (i32.add (local.get $r) (local.get $i))))
        (local.set $y (v128.load (i32.add (local.get $g) (local.get $i))))
        (local.set $z (v128.load (i32.add (local.get $v) (local.get $i))))
        (local.set $p (f32x4.max (local.get $least) (f32x4.add (f32x4.mul (local.get $c0) (local.get $x))
          (f32x4.add (f32x4.mul (local.get $c1) (local.get $y)) (f32x4.mul (local.get $c2) (local.get $z))))))
        (local.set $q (f32x4.max (local.get $least) (f32x4.add (f32x4.mul (local.get $c3) (local.get $x))
          (f32x4.add (f32x4.mul (local.get $c4) (local.get $y)) (f32x4.mul (local.get $c5) (local.get $z))))))
        (local.set $s (f32x4.max (local.get $least) (f32x4.add (f32x4.mul (local.get $c6) (local.get $x))
          (f32x4.add (f32x4.mul (local.get $c7) (local.get $y)) (f32x4.mul (local.get $c8) (local.get $z))))))
        (local.set $t (i32x4.trunc_sat_f32x4_s (f32x4.add (f32x4.mul (f32x4.convert_i32x4_s (local.get $p)) (local.get $third)) (local.get $magic))))
        (local.set $w (f32x4.mul (local.get $t) (f32x4.mul (local.get $t) (local.get $t))))
        (local.set $p (f32x4.mul (local.get $t) (f32x4.div
          (f32x4.add (local.get $w) (f32x4.add (local.get $p) (local.get $p)))
          (f32x4.add (local.get $p) (f32x4.add (local.get $w) (local.get $w))))))
        (local.set $t (i32x4.trunc_sat_f32x4_s (f32x4.add (f32x4.mul (f32x4.convert_i32x4_s (local.get $q)) (local.get $third)) (local.get $magic))))
        (local.set $w (f32x4.mul (local.get $t) (f32x4.mul (local.get $t) (local.get $t))))
        (local.set $q (f32x4.mul (local.get $t) (f32x4.div
          (f32x4.add (local.get $w) (f32x4.add (local.get $q) (local.get $q)))
          (f32x4.add (local.get $q) (f32x4.add (local.get $w) (local.get $w))))))
        (local.set $t (i32x4.trunc_sat_f32x4_s (f32x4.add (f32x4.mul (f32x4.convert_i32x4_s (local.get $s)) (local.get $third)) (local.get $magic))))
        (local.set $w (f32x4.mul (local.get $t) (f32x4.mul (local.get $t) (local.get $t))))
        (local.set $s (f32x4.mul (local.get $t) (f32x4.div
          (f32x4.add (local.get $w) (f32x4.add (local.get $s) (local.get $s)))
          (f32x4.add (local.get $s) (f32x4.add (local.get $w) (local.get $w))))))
        (v128.store (i32.add (local.get $l) (local.get $i)) (f32x4.add (f32x4.mul (local.get $c9) (local.get $p))
          (f32x4.add (f32x4.mul (local.get $c10) (local.get $q)) (f32x4.mul (local.get $c11) (local.get $s)))))
        (v128.store (i32.add (local.get $a) (local.get $i)) (f32x4.add (f32x4.mul (local.get $c12) (local.get $p))
          (f32x4.add (f32x4.mul (local.get $c13) (local.get $q)) (f32x4.mul (local.get $c14) (local.get $s)))))
        (v128.store (i32.add (local.get $b) (local.get $i)) (f32x4.add (f32x4.mul (local.get $c15) (local.get $p))
          (f32x4.add (f32x4.mul (local.get $c16) (local.get $q)) (f32x4.mul (local.get $c17) (local.get $s)))))
        (local.set $i (i32.add (local.get $i) (i32.const 16)))
        (br $next))))

  ;; (a − b)².
  (func (export "squares") (param $a i32) (param $b i32) (param $out i32) (param $count i32)
    (local $i i32) (local $d v128)
    (local.set $count (i32.shl (local.get $count) (i32.const 2)))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $i) (local.get $count)))
        (local.set $d (f32x4.sub (v128.load (i32.add (local.get $a) (local.get $i))) (v128.load (i32.add (local.get $b) (local.get $i)))))
        (v128.store (i32.add (local.get $out) (local.get $i)) (f32x4.mul (local.get $d) (local.get $d)))
        (local.set $i (i32.add (local.get $i) (i32.const 16)))
        (br $next))))

  ;; a · b.
  (func (export "product") (param $a i32) (param $b i32) (param $out i32) (param $count i32)
    (local $i i32)
    (local.set $count (i32.shl (local.get $count) (i32.const 2)))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $i) (local.get $count)))
        (v128.store (i32.add (local.get $out) (local.get $i))
          (f32x4.mul (v128.load (i32.add (local.get $a) (local.get $i))) (v128.load (i32.add (local.get $b) (local.get $i)))))
        (local.set $i (i32.add (local.get $i) (i32.const 16)))
        (br $next))))

  ;; max(0, square − mean²): a variance.
  (func (export "spread") (param $mean i32) (param $square i32) (param $out i32) (param $count i32)
    (local $i i32) (local $m v128)
    (local.set $count (i32.shl (local.get $count) (i32.const 2)))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $i) (local.get $count)))
        (local.set $m (v128.load (i32.add (local.get $mean) (local.get $i))))
        (v128.store (i32.add (local.get $out) (local.get $i)) (f32x4.max (f32x4.splat (f32.const 0))
          (f32x4.sub (v128.load (i32.add (local.get $square) (local.get $i))) (f32x4.mul (local.get $m) (local.get $m)))))
        (local.set $i (i32.add (local.get $i) (i32.const 16)))
        (br $next))))

  ;; Fourth roots, in place.
  (func (export "roots") (param $at i32) (param $count i32)
    (local $end i32)
    (local.set $end (i32.add (local.get $at) (i32.shl (local.get $count) (i32.const 2))))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $at) (local.get $end)))
        (v128.store (local.get $at) (f32x4.sqrt (f32x4.sqrt (v128.load (local.get $at)))))
        (local.set $at (i32.add (local.get $at) (i32.const 16)))
        (br $next))))

  ;; Weighted sum of `taps` rows; at `rows` stands where each begins.
  (func (export "down") (param $rows i32) (param $weights i32) (param $taps i32) (param $out i32) (param $count i32)
    (local $i i32) (local $sum v128) (local $row i32) (local $weight i32) (local $left i32)
    (local.set $count (i32.shl (local.get $count) (i32.const 2)))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $i) (local.get $count)))
        (local.set $sum (v128.const f32x4 0 0 0 0))
        (local.set $row (local.get $rows))
        (local.set $weight (local.get $weights))
        (local.set $left (local.get $taps))
        (loop $tap
          (local.set $sum (f32x4.add (local.get $sum)
            (f32x4.mul (v128.load (i32.add (i32.load (local.get $row)) (local.get $i))) (v128.load32_splat (local.get $weight)))))
          (local.set $row (i32.add (local.get $row) (i32.const 4)))
          (local.set $weight (i32.add (local.get $weight) (i32.const 4)))
          (local.set $left (i32.sub (local.get $left) (i32.const 1)))
          (br_if $tap (local.get $left)))
        (v128.store (i32.add (local.get $out) (local.get $i)) (local.get $sum))
        (local.set $i (i32.add (local.get $i) (i32.const 16)))
        (br $next))))

  ;; Weighted sum of `taps` neighbours: the row at `row` begins as many floats before the first sum as the window reaches.
  (func (export "across") (param $row i32) (param $weights i32) (param $taps i32) (param $out i32) (param $count i32)
    (local $i i32) (local $sum v128) (local $at i32) (local $weight i32) (local $left i32)
    (local.set $count (i32.shl (local.get $count) (i32.const 2)))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $i) (local.get $count)))
        (local.set $sum (v128.const f32x4 0 0 0 0))
        (local.set $at (i32.add (local.get $row) (local.get $i)))
        (local.set $weight (local.get $weights))
        (local.set $left (local.get $taps))
        (loop $tap
          (local.set $sum (f32x4.add (local.get $sum) (f32x4.mul (v128.load (local.get $at)) (v128.load32_splat (local.get $weight)))))
          (local.set $at (i32.add (local.get $at) (i32.const 4)))
          (local.set $weight (i32.add (local.get $weight) (i32.const 4)))
          (local.set $left (i32.sub (local.get $left) (i32.const 1)))
          (br_if $tap (local.get $left)))
        (v128.store (i32.add (local.get $out) (local.get $i)) (local.get $sum))
        (local.set $i (i32.add (local.get $i) (i32.const 16)))
        (br $next))))

  ;; Means of neighbours in pairs: `count` floats out.
  (func (export "pairs") (param $row i32) (param $out i32) (param $count i32)
    (local $end i32) (local $x v128) (local $y v128)
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 2))))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $out) (local.get $end)))
        (local.set $x (v128.load (local.get $row)))
        (local.set $y (v128.load offset=16 (local.get $row)))
        (v128.store (local.get $out) (f32x4.mul (f32x4.splat (f32.const 0.5)) (f32x4.add
          (i8x16.shuffle 0 1 2 3 8 9 10 11 16 17 18 19 24 25 26 27 (local.get $x) (local.get $y))
          (i8x16.shuffle 4 5 6 7 12 13 14 15 20 21 22 23 28 29 30 31 (local.get $x) (local.get $y)))))
        (local.set $row (i32.add (local.get $row) (i32.const 32)))
        (local.set $out (i32.add (local.get $out) (i32.const 16)))
        (br $next)))))
