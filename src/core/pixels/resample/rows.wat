;; The three inner loops of resampling, four floats (one pixel) at a time. Compiled into rows-wasm.ts by scripts/wasm.mjs.
(module
  (import "host" "memory" (memory 1))

  ;; Linear light of one row of 8-bit RGB: `count` pixels from `source`, by three tables of 256 floats in a row at `tables`.
  (func (export "linear8") (param $source i32) (param $out i32) (param $tables i32) (param $count i32)
    (local $end i32)
    (local.set $end (i32.add (local.get $source) (i32.mul (local.get $count) (i32.const 3))))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $source) (local.get $end)))
        (f32.store (local.get $out)
          (f32.load (i32.add (local.get $tables) (i32.shl (i32.load8_u (local.get $source)) (i32.const 2)))))
        (f32.store offset=4 (local.get $out)
          (f32.load offset=1024 (i32.add (local.get $tables) (i32.shl (i32.load8_u offset=1 (local.get $source)) (i32.const 2)))))
        (f32.store offset=8 (local.get $out)
          (f32.load offset=2048 (i32.add (local.get $tables) (i32.shl (i32.load8_u offset=2 (local.get $source)) (i32.const 2)))))
        (local.set $source (i32.add (local.get $source) (i32.const 3)))
        (local.set $out (i32.add (local.get $out) (i32.const 16)))
        (br $next))))

  ;; One row across: `count` output pixels, each the sum of `taps` input pixels from starts[o] on, weighted.
  (func (export "across") (param $input i32) (param $out i32) (param $starts i32) (param $weights i32) (param $taps i32) (param $count i32)
    (local $sum v128) (local $at i32) (local $left i32) (local $end i32)
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 4))))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $out) (local.get $end)))
        (local.set $sum (v128.const f32x4 0 0 0 0))
        (local.set $at (i32.add (local.get $input) (i32.shl (i32.load (local.get $starts)) (i32.const 4))))
        (local.set $left (local.get $taps))
        (loop $tap
          (local.set $sum (f32x4.add (local.get $sum)
            (f32x4.mul (v128.load (local.get $at)) (v128.load32_splat (local.get $weights)))))
          (local.set $at (i32.add (local.get $at) (i32.const 16)))
          (local.set $weights (i32.add (local.get $weights) (i32.const 4)))
          (local.set $left (i32.sub (local.get $left) (i32.const 1)))
          (br_if $tap (local.get $left)))
        (v128.store (local.get $out) (local.get $sum))
        (local.set $out (i32.add (local.get $out) (i32.const 16)))
        (local.set $starts (i32.add (local.get $starts) (i32.const 4)))
        (br $next))))

  ;; One output row: `count` pixels, each the weighted sum of the pixels above each other in `taps` rows. `rows` lists where they begin.
  (func (export "down") (param $rows i32) (param $weights i32) (param $taps i32) (param $out i32) (param $count i32)
    (local $sum v128) (local $offset i32) (local $end i32) (local $row i32) (local $weight i32) (local $left i32)
    (local.set $end (i32.shl (local.get $count) (i32.const 4)))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $offset) (local.get $end)))
        (local.set $sum (v128.const f32x4 0 0 0 0))
        (local.set $row (local.get $rows))
        (local.set $weight (local.get $weights))
        (local.set $left (local.get $taps))
        (loop $tap
          (local.set $sum (f32x4.add (local.get $sum)
            (f32x4.mul (v128.load (i32.add (i32.load (local.get $row)) (local.get $offset))) (v128.load32_splat (local.get $weight)))))
          (local.set $row (i32.add (local.get $row) (i32.const 4)))
          (local.set $weight (i32.add (local.get $weight) (i32.const 4)))
          (local.set $left (i32.sub (local.get $left) (i32.const 1)))
          (br_if $tap (local.get $left)))
        (v128.store (i32.add (local.get $out) (local.get $offset)) (local.get $sum))
        (local.set $offset (i32.add (local.get $offset) (i32.const 16)))
        (br $next)))))
