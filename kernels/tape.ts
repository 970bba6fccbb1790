import * as code from "./build/codes";
import { adjustTile, colourMask, gradientTile, mixTile } from "./adjust";
import { blendTile } from "./blend";
import { blurColumn, blurRow, sharpenTile } from "./blur";
import { contactMarks } from "./contact";
import { bindTile, layContact } from "./dry";
import { mergeDust } from "./dust";
import { SIDE } from "./layout";
import { noiseTile } from "./noise";
import { layCoverage, layPaint, layUnder } from "./lay";
import { halveLight, lightRegion, lightTile } from "./light";
import { layMarks } from "./mark";
import { fillTile, packBits, packTile } from "./pack";
import { combine, paintMarks } from "./paint";
import { alphaBits, facingMask, growBits, holdBack, joinMasks, keepInside, layBits, layLabels, lightMask, nearBits, raiseBits, spreadBits } from "./region";
import { sweepTile } from "./oil/exchange";
import { knifeCreep, knifeTile } from "./oil/knife";
import { fringeTile } from "./fringe";
import { halftoneTile } from "./halftone";
import { dryRelief, lightRelief } from "./oil/relief";
import { thinAround, thinField, thinRun } from "./oil/thinner";
import { closeWet, restPaint, showWet, wakePaint } from "./oil/wet";
import { rasterScene } from "./scene/raster";
import { colourScene, flatScene, lineScene } from "./scene/shade";
import { shiftTile } from "./shift";
import { strewTile } from "./strew";
import { closePaint, encodePaint, showPaint, smearMark } from "./smear";
import { smudgeMark, spreadCarried } from "./smudge";
import { tintTile } from "./tint";
import { halveTile, unweave, warpTile } from "./warp";
import { developWash } from "./water/develop";
import { dissolveUnder, markSoluble, solubleOf } from "./water/dissolve";
import { fluidResists, waxResists } from "./water/resist";
import { liftUnder } from "./water/lift";
import { washMarks } from "./water/mark";
import { shineWash } from "./water/shine";
import { lookAtWash, washStep } from "./water/step";

/**
 * A tape is a list of 32-bit words: an instruction's number, then its operands. One tape
 * does all the work for one tile, so tapes can run on any thread in any order and a tile
 * costs one call. `src/engine/tiles/tape.ts` writes them.
 */

/** Where a thread's scratch holds the region that it resamples. */
const REGION_AT: usize = 1024;

// @ts-ignore: decorator
@inline function at(tape: usize, index: i32): i32 {
  return load<i32>(tape + (index << 2));
}

/** Bytes of a scene's samples over a square with `pad` px around it. */
// @ts-ignore: decorator
@inline function samplesBytes(side: i32, pad: i32, samples: i32): usize {
  const across = (side + 2 * pad) * samples;
  return <usize>(across * across) << 3;
}

/** Runs one tape. `scratch`: 512 bytes of this thread's own, and from 1024 on its region. Returns words read. */
export function runTape(tape: usize, scratch: usize): i32 {
  let t = tape;
  while (true) {
    const instruction = at(t, 0);
    switch (instruction) {
      case code.END:
        return <i32>((t - tape) >> 2);
      case code.FILL:
        fillTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5));
        break;
      case code.COPY:
        memory.copy(at(t, 1), at(t, 2), at(t, 3));
        break;
      case code.BLEND:
        blendTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5) != 0, scratch);
        break;
      case code.MARKS:
        layMarks(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), scratch);
        break;
      case code.LAY:
        layCoverage(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10), at(t, 11), at(t, 12));
        break;
      case code.PACK:
        packTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        break;
      case code.CLEAR:
        memory.fill(at(t, 1), 0, at(t, 2));
        break;
      case code.PAINT_MARKS:
        paintMarks(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), scratch);
        break;
      case code.LAY_PAINT:
        layPaint(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10));
        break;
      case code.COMBINE:
        combine(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5));
        break;
      case code.TINT:
        tintTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5));
        break;
      case code.CLEAR_REGION:
        memory.fill(scratch + REGION_AT, 0, at(t, 1));
        break;
      case code.UNWEAVE:
        unweave(scratch + REGION_AT + <usize>at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        break;
      case code.WARP:
        warpTile(at(t, 1), at(t, 2), scratch + REGION_AT, at(t, 3), at(t, 4), at(t, 5));
        break;
      case code.HALVE:
        halveTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        break;
      case code.NEAR_BITS:
        nearBits(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        break;
      case code.ALPHA_BITS:
        alphaBits(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        break;
      case code.GROW_BITS:
        growBits(
          at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), scratch + REGION_AT,
        );
        break;
      case code.SPREAD_BITS:
        spreadBits(
          at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10), at(t, 11),
        );
        break;
      case code.LAY_BITS:
        layBits(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        break;
      case code.LAY_LABELS:
        layLabels(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        break;
      case code.KEEP_INSIDE:
        keepInside(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        break;
      case code.HOLD_BACK:
        holdBack(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        break;
      case code.RAISE_BITS:
        raiseBits(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        break;
      case code.LIGHT_MASK:
        lightMask(at(t, 1), at(t, 2), at(t, 3));
        break;
      case code.JOIN_MASKS:
        joinMasks(at(t, 1), at(t, 2), at(t, 3));
        break;
      case code.BLUR_COLUMN:
        blurColumn(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8));
        break;
      case code.BLUR_ROW:
        blurRow(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8));
        break;
      case code.ADJUST:
        adjustTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        break;
      case code.GRADIENT:
        gradientTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        break;
      case code.MIX:
        mixTile(at(t, 1), at(t, 2), at(t, 3));
        break;
      case code.COLOUR_MASK:
        colourMask(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        break;
      case code.LIGHT_REGION:
        lightRegion(scratch + REGION_AT, at(t, 1), at(t, 2));
        break;
      case code.LIGHT:
        lightTile(at(t, 1), at(t, 2), at(t, 3));
        break;
      case code.HALVE_LIGHT:
        halveLight(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), scratch + REGION_AT);
        break;
      case code.SHARPEN:
        sharpenTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        break;
      case code.NOISE:
        noiseTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        break;
      case code.CONTACT:
        contactMarks(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), scratch + REGION_AT);
        break;
      case code.LAY_CONTACT:
        layContact(
          at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10), at(t, 11),
          at(t, 12), at(t, 13), at(t, 14), at(t, 15),
        );
        break;
      case code.BIND:
        bindTile(at(t, 1), at(t, 2), at(t, 3));
        break;
      case code.SMUDGE:
        smudgeMark(
          at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10), at(t, 11),
          at(t, 12), reinterpret<f32>(at(t, 13)), reinterpret<f32>(at(t, 14)), at(t, 15), at(t, 16),
        );
        break;
      case code.SPREAD_CARRIED:
        spreadCarried(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        break;
      case code.SMEAR:
        smearMark(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10), at(t, 11), at(t, 12), at(t, 13), at(t, 14), at(t, 15), at(t, 16), at(t, 17), at(t, 18), at(t, 19), at(t, 20), at(t, 21), scratch);
        break;
      case code.ENCODE_PAINT:
        encodePaint(at(t, 1), at(t, 2), scratch);
        break;
      case code.CLOSE_PAINT:
        closePaint(at(t, 1), at(t, 2));
        break;
      case code.SHOW_PAINT:
        showPaint(at(t, 1), at(t, 2), scratch);
        break;
      case code.WAKE_PAINT:
        wakePaint(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10), at(t, 11), at(t, 12), reinterpret<f32>(at(t, 13)));
        break;
      case code.CLOSE_WET:
        closeWet(at(t, 1), at(t, 2));
        break;
      case code.SWEEP:
        sweepTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), scratch + REGION_AT);
        break;
      case code.SHOW_WET:
        showWet(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), scratch);
        break;
      case code.REST_PAINT:
        restPaint(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6));
        break;
      case code.KNIFE:
        knifeTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6));
        break;
      case code.KNIFE_CREEP:
        knifeCreep(at(t, 1), at(t, 2), reinterpret<f32>(at(t, 3)), reinterpret<f32>(at(t, 4)), reinterpret<f32>(at(t, 5)), at(t, 6));
        break;
      case code.THIN_FIELD:
        thinField(at(t, 1), at(t, 2));
        break;
      case code.THIN_AROUND:
        thinAround(t + 4, at(t, 10), at(t, 11), scratch + REGION_AT);
        break;
      case code.THIN_RUN:
        thinRun(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), reinterpret<f32>(at(t, 7)));
        break;
      case code.WASH_STEP:
        washStep(
          at(t, 1), at(t, 2), t + 12, at(t, 12), at(t, 13), at(t, 14), at(t, 15), at(t, 16), at(t, 17), at(t, 18), at(t, 19),
          at(t, 20), scratch + REGION_AT,
        );
        break;
      case code.DEVELOP_WASH:
        developWash(
          at(t, 1), at(t, 2), t + 12, at(t, 12), at(t, 13), at(t, 14), at(t, 15), at(t, 16), at(t, 17), at(t, 18), at(t, 19),
          scratch + REGION_AT,
        );
        break;
      case code.WASH_MARKS:
        washMarks(
          at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), reinterpret<f32>(at(t, 9)),
          at(t, 10), at(t, 11), at(t, 12), at(t, 13), at(t, 14), at(t, 15), at(t, 16), reinterpret<f32>(at(t, 17)),
        );
        break;
      case code.LOOK_AT_WASH:
        lookAtWash(at(t, 1), at(t, 2));
        break;
      case code.WAX_RESISTS:
        waxResists(at(t, 1), at(t, 2));
        break;
      case code.FLUID_RESISTS:
        fluidResists(at(t, 1), at(t, 2));
        break;
      case code.LIFT_UNDER:
        liftUnder(at(t, 1), at(t, 2), at(t, 3), reinterpret<f32>(at(t, 4)));
        break;
      case code.DRY_RELIEF:
        dryRelief(at(t, 1), at(t, 2));
        break;
      case code.RASTER_SCENE:
        rasterScene(scratch + REGION_AT, at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        break;
      case code.COLOUR_SCENE:
        colourScene(at(t, 1), at(t, 2), scratch + REGION_AT, scratch + REGION_AT + samplesBytes(SIDE, at(t, 5), at(t, 6)), at(t, 3), at(t, 4), at(t, 5), at(t, 6));
        break;
      case code.FLAT_SCENE:
        flatScene(at(t, 1), at(t, 2), scratch + REGION_AT, at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        break;
      case code.LINE_SCENE:
        lineScene(
          at(t, 1), at(t, 2), scratch + REGION_AT, scratch + REGION_AT + samplesBytes(at(t, 7), at(t, 8), at(t, 9)), at(t, 3), at(t, 4), at(t, 5),
          at(t, 6), at(t, 7), at(t, 8), at(t, 9), load<f32>(t + (10 << 2)), at(t, 11), at(t, 12), at(t, 13),
        );
        break;
      case code.STREW:
        strewTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6));
        break;
      case code.PACK_BITS:
        packBits(at(t, 1), at(t, 2), at(t, 3));
        break;
      case code.SHIFT:
        shiftTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        break;
      case code.HALFTONE:
        halftoneTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10), reinterpret<f32>(at(t, 11)), reinterpret<f32>(at(t, 12)), reinterpret<f32>(at(t, 13)), at(t, 14), at(t, 15), at(t, 16), at(t, 17), at(t, 18));
        break;
      case code.LIGHT_RELIEF:
        lightRelief(at(t, 1), at(t, 2), t + 12, t + 48, scratch + REGION_AT);
        break;
      case code.FRINGE:
        fringeTile(at(t, 1), at(t, 2), t + 12, t + 48, scratch + REGION_AT);
        break;
      case code.FACING_MASK:
        facingMask(at(t, 1), at(t, 2), reinterpret<f32>(at(t, 3)), reinterpret<f32>(at(t, 4)), reinterpret<f32>(at(t, 5)));
        break;
      case code.SOLUBLE_OF:
        solubleOf(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5));
        break;
      case code.DISSOLVE_UNDER:
        dissolveUnder(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), reinterpret<f32>(at(t, 7)));
        break;
      case code.MARK_SOLUBLE:
        markSoluble(at(t, 1), at(t, 2), at(t, 3), at(t, 4), reinterpret<f32>(at(t, 5)), reinterpret<f32>(at(t, 6)), reinterpret<f32>(at(t, 7)), reinterpret<f32>(at(t, 8)));
        break;
      case code.MERGE_DUST:
        mergeDust(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6));
        break;
      case code.SHINE_WASH:
        shineWash(at(t, 1), t + 8, at(t, 11), at(t, 12), at(t, 13), at(t, 14), scratch + REGION_AT);
        break;
      case code.UNDER:
        layUnder(at(t, 1), at(t, 2));
        break;
      default:
        unreachable();
    }
    t += <usize>load<u8>(code.WORDS + <usize>instruction) << 2;
  }
}

/**
 * Pulls jobs until none is left. `next` is a shared counter,
 * `tapes` an array of `count` tape addresses. Returns how many jobs this thread did.
 */
export function pullJobs(next: usize, tapes: usize, count: i32, scratch: usize): i32 {
  let done = 0;
  while (true) {
    const job = atomic.add<i32>(next, 1);
    if (job >= count) return done;
    runTape(load<u32>(tapes + (job << 2)), scratch);
    done++;
  }
}

/** For measuring: reads, changes and writes `bytes` bytes, sixteen at a time. */
export function readModifyWrite(at: usize, bytes: i32): void {
  const one = i16x8.splat(1);
  for (let o = 0; o < bytes; o += 64) {
    const p = at + <usize>o;
    v128.store(p, i16x8.add(v128.load(p), one));
    v128.store(p, i16x8.add(v128.load(p, 16), one), 16);
    v128.store(p, i16x8.add(v128.load(p, 32), one), 32);
    v128.store(p, i16x8.add(v128.load(p, 48), one), 48);
  }
}

/** For measuring: a plain copy. */
export function copyBytes(dst: usize, src: usize, bytes: i32): void {
  memory.copy(dst, src, bytes);
}

/** Sets bytes to one value. */
export function fillBytes(dst: usize, value: i32, bytes: i32): void {
  memory.fill(dst, <u8>value, bytes);
}
