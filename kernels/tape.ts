import { adjustTile, colourMask, gradientTile, mixTile } from "./adjust";
import { blendTile } from "./blend";
import { blurColumn, blurRow, sharpenTile } from "./blur";
import { contactMarks } from "./contact";
import { bindTile, layContact } from "./dry";
import { SIDE } from "./layout";
import { noiseTile } from "./noise";
import { layCoverage, layPaint, layUnder } from "./lay";
import { halveLight, lightRegion, lightTile } from "./light";
import { layMarks } from "./mark";
import { fillTile, packBits, packTile } from "./pack";
import { combine, paintMarks } from "./paint";
import { alphaBits, growBits, holdBack, joinMasks, keepInside, layBits, layLabels, lightMask, nearBits, raiseBits, spreadBits } from "./region";
import { sweepTile } from "./oil/exchange";
import { knifeCreep, knifeTile } from "./oil/knife";
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
import { waxResists } from "./water/resist";
import { liftUnder } from "./water/lift";
import { washMarks } from "./water/mark";
import { lookAtWash, washStep } from "./water/step";

/**
 * A tape is a list of 32-bit words: an instruction's number, then its operands. One tape
 * does all the work for one tile, so tapes can run on any thread in any order and a tile
 * costs one call. `src/engine/tiles/tape.ts` writes them.
 *
 *   0                                              end
 *   1 dst r g b a                                  fill
 *   2 dst src bytes                                copy
 *   3 dst src mode opacity inside                  blend
 *   4 cov px py marks count noise grain period     marks into coverage
 *   5 layer before cov mode r g b strength left top right bottom    lay coverage
 *   6 dst stride src level                         pack to RGBA8
 *   7 at bytes                                     clear a plane
 *   8 paint px py marks count noise grain period   marks with colours into paint
 *   9 layer before paint weight mode strength left top right bottom   lay paint
 *  10 dst plane over mode painted                  what an overtip leaves
 *  11 dst src r g b                                a tile seen in one colour
 *  12 bytes                                        clear this thread's region
 *  13 offset stride tile b0 b1 y0 y1               part of a tile into the region
 *  14 dst nodes stride weights taps                the region resampled over a tile
 *  15 dst src qx qy                                a tile at half its size
 *  16 dst stride tile seed                         bits of the pixels near a colour
 *  17 dst stride tile least                        bits of the pixels with alpha
 *  18 dst src words rows y0 y1 r reach             bits grown by a disc
 *  19 dst src within without words rows y0 y1 eightbits grown by a step within bounds
 *  20 tile bits stride how r g b                   a colour through bits
 *  21 tile labels stride palette                   numbered regions in colours
 *  22 dst before mask                              a change kept inside a mask
 *  23 dst src mask outside                         what a mask holds back, or lets through
 *  24 tile bits stride amount                      alpha raised through bits
 *  25 dst src dark                                 a mask from light or dark
 *  26 dst src how                                  two masks together
 *  27 from to count length buffer r0 r1 r2         a column of tiles blurred
 *  28 from to count length buffer r0 r1 r2         a row of tiles blurred
 *  29 dst src kind table                           colours changed by a table
 *  30 dst px py kind shape table noise             a gradient
 *  31 dst before share                             partly back to what was
 *  32 tile r g b                                   a mask in one colour
 *  33 bytes table                                  this thread's region on another scale of light
 *  34 dst src table                                a tile on another scale of light
 *  35 dst src qx qy table                          the same, at half its size
 *  36 dst src                                      a tile laid under another
 *  37 dst src soft amount                          a tile sharpened
 *  38 dst src left top amount grey key             a tile with noise
 *  39 contact px py marks count paper period       a dry tip's marks into contact
 *  40 layer before powder before contact dry paper period px py left top right bottom   lay contact
 *  41 dst src left                                loose powder bound, but for a share
 *  42 tile powder px py mark patch side ox oy paper period rate right bottom   a rub that carries powder
 *  43 from to side spans grown y0 y1               rows of what is carried, spread
 *  44 paint px py mark patch side ox oy strength pick fill keep below paper period right bottom beside share above share   a blending mark
 *  45 paint tile                                  a tile's colours as paint
 *  46 paint mask                                  paint closed, but for a mask
 *  47 tile paint                                  what has become of the paint
 *  48 wet skin more bulk more thinner relief isWet px py paper period rough   wet paint unpacked
 *  49 wet mask                                    wet paint closed, but for a mask
 *  50 wet px py sweeps list count sums            bristles swept over wet paint
 *  51 tile relief under wet left top right bottom what has become of wet paint
 *  52 wet skin more bulk more thinner             wet paint packed
 *  53 dst src nine reliefs, light x y z depth gloss   paint that stands up, in the light
 *  54 wet px py step cells count                   a knife drawn over wet paint
 *  55 cells count px marbles way seed              paint creeps along its edge
 *  56 dst src                                      relief of paint that has dried
 *  57 wet field                                   how thinned paint would run, into a tile's field
 *  58 nine fields, px py                          the same, smoothed with what lies around
 *  59 wet other field otherField direction odd gravity   paint that runs between neighbours
 *  60 from to nine states, slots px py width height paper side numbers stats    a step of a wash
 *  61 tile under nine states, slots px py paper side numbers top bottom         what is seen of a wash
 *  62 state covered px py marks count what slot rub mask slots numbers paper side   a brush in a wash
 *  63 state stats                                 what a wash holds
 *  64 state powder                                where wax holds water off
 *  65 dst src covered by                           what is dry below a wash, rubbed by a thirsty brush
 *  66 dst src screen tones u v ux vx uy vy pixel least gain steps r g b how     a tile as dots, lines or grain
 *  67 dst src dx dy                               what of a tile falls into another, moved by whole px
 *  68 dst stride src                              a tile in black and white
 *  69 scene list count px py side samples         what a square of a scene shows, into the region
 *  70 dst scene px py pad samples                 a tile of the region's scene in its light
 *  71 dst scene px py pad samples what            its depths, ids or where its surfaces face
 *  72 dst scene px py left top side pad samples width r g b   part of a tile with its lines
 */
const END: i32 = 0;
const FILL: i32 = 1;
const COPY: i32 = 2;
const BLEND: i32 = 3;
const MARKS: i32 = 4;
const LAY: i32 = 5;
const PACK: i32 = 6;
const CLEAR: i32 = 7;
const PAINT_MARKS: i32 = 8;
const LAY_PAINT: i32 = 9;
const COMBINE: i32 = 10;
const TINT: i32 = 11;
const CLEAR_REGION: i32 = 12;
const UNWEAVE: i32 = 13;
const WARP: i32 = 14;
const HALVE: i32 = 15;
const NEAR_BITS: i32 = 16;
const ALPHA_BITS: i32 = 17;
const GROW_BITS: i32 = 18;
const SPREAD_BITS: i32 = 19;
const LAY_BITS: i32 = 20;
const LAY_LABELS: i32 = 21;
const KEEP_INSIDE: i32 = 22;
const HOLD_BACK: i32 = 23;
const RAISE_BITS: i32 = 24;
const LIGHT_MASK: i32 = 25;
const JOIN_MASKS: i32 = 26;
const BLUR_COLUMN: i32 = 27;
const BLUR_ROW: i32 = 28;
const ADJUST: i32 = 29;
const GRADIENT: i32 = 30;
const MIX: i32 = 31;
const COLOUR_MASK: i32 = 32;
const LIGHT_REGION: i32 = 33;
const LIGHT: i32 = 34;
const HALVE_LIGHT: i32 = 35;
const UNDER: i32 = 36;
const SHARPEN: i32 = 37;
const NOISE: i32 = 38;
const CONTACT: i32 = 39;
const LAY_CONTACT: i32 = 40;
const BIND: i32 = 41;
const SMUDGE: i32 = 42;
const SPREAD_CARRIED: i32 = 43;
const SMEAR: i32 = 44;
const ENCODE_PAINT: i32 = 45;
const CLOSE_PAINT: i32 = 46;
const SHOW_PAINT: i32 = 47;
const WAKE_PAINT: i32 = 48;
const CLOSE_WET: i32 = 49;
const SWEEP: i32 = 50;
const SHOW_WET: i32 = 51;
const REST_PAINT: i32 = 52;
const LIGHT_RELIEF: i32 = 53;
const KNIFE: i32 = 54;
const KNIFE_CREEP: i32 = 55;
const DRY_RELIEF: i32 = 56;
const THIN_FIELD: i32 = 57;
const THIN_AROUND: i32 = 58;
const THIN_RUN: i32 = 59;
const WASH_STEP: i32 = 60;
const WASH_DEVELOP: i32 = 61;
const WASH_MARKS: i32 = 62;
const LOOK_AT_WASH: i32 = 63;
const WAX_RESISTS: i32 = 64;
const LIFT_UNDER: i32 = 65;
const HALFTONE: i32 = 66;
const SHIFT: i32 = 67;
const PACK_BITS: i32 = 68;
const RASTER_SCENE: i32 = 69;
const COLOUR_SCENE: i32 = 70;
const FLAT_SCENE: i32 = 71;
const LINE_SCENE: i32 = 72;
const STREW: i32 = 73;

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

/** Runs one tape. `scratch`: 512 bytes of this thread's own, and from 1024 on its region. Returns words read, −1 where it is not a tape. */
export function runTape(tape: usize, scratch: usize): i32 {
  let t = tape;
  while (true) {
    switch (at(t, 0)) {
      case END:
        return <i32>((t - tape) >> 2);
      case FILL:
        fillTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5));
        t += 6 << 2;
        break;
      case COPY:
        memory.copy(at(t, 1), at(t, 2), at(t, 3));
        t += 4 << 2;
        break;
      case BLEND:
        blendTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5) != 0, scratch);
        t += 6 << 2;
        break;
      case MARKS:
        layMarks(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), scratch);
        t += 9 << 2;
        break;
      case LAY:
        layCoverage(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10), at(t, 11), at(t, 12));
        t += 13 << 2;
        break;
      case PACK:
        packTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        t += 5 << 2;
        break;
      case CLEAR:
        memory.fill(at(t, 1), 0, at(t, 2));
        t += 3 << 2;
        break;
      case PAINT_MARKS:
        paintMarks(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), scratch);
        t += 9 << 2;
        break;
      case LAY_PAINT:
        layPaint(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10));
        t += 11 << 2;
        break;
      case COMBINE:
        combine(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5));
        t += 6 << 2;
        break;
      case TINT:
        tintTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5));
        t += 6 << 2;
        break;
      case CLEAR_REGION:
        memory.fill(scratch + REGION_AT, 0, at(t, 1));
        t += 2 << 2;
        break;
      case UNWEAVE:
        unweave(scratch + REGION_AT + <usize>at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        t += 8 << 2;
        break;
      case WARP:
        warpTile(at(t, 1), at(t, 2), scratch + REGION_AT, at(t, 3), at(t, 4), at(t, 5));
        t += 6 << 2;
        break;
      case HALVE:
        halveTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        t += 5 << 2;
        break;
      case NEAR_BITS:
        nearBits(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        t += 5 << 2;
        break;
      case ALPHA_BITS:
        alphaBits(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        t += 5 << 2;
        break;
      case GROW_BITS:
        growBits(
          at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), scratch + REGION_AT,
        );
        t += 10 << 2;
        break;
      case SPREAD_BITS:
        spreadBits(
          at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10), at(t, 11),
        );
        t += 12 << 2;
        break;
      case LAY_BITS:
        layBits(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        t += 8 << 2;
        break;
      case LAY_LABELS:
        layLabels(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        t += 5 << 2;
        break;
      case KEEP_INSIDE:
        keepInside(at(t, 1), at(t, 2), at(t, 3));
        t += 4 << 2;
        break;
      case HOLD_BACK:
        holdBack(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        t += 5 << 2;
        break;
      case RAISE_BITS:
        raiseBits(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        t += 5 << 2;
        break;
      case LIGHT_MASK:
        lightMask(at(t, 1), at(t, 2), at(t, 3));
        t += 4 << 2;
        break;
      case JOIN_MASKS:
        joinMasks(at(t, 1), at(t, 2), at(t, 3));
        t += 4 << 2;
        break;
      case BLUR_COLUMN:
        blurColumn(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8));
        t += 9 << 2;
        break;
      case BLUR_ROW:
        blurRow(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8));
        t += 9 << 2;
        break;
      case ADJUST:
        adjustTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        t += 5 << 2;
        break;
      case GRADIENT:
        gradientTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        t += 8 << 2;
        break;
      case MIX:
        mixTile(at(t, 1), at(t, 2), at(t, 3));
        t += 4 << 2;
        break;
      case COLOUR_MASK:
        colourMask(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        t += 5 << 2;
        break;
      case LIGHT_REGION:
        lightRegion(scratch + REGION_AT, at(t, 1), at(t, 2));
        t += 3 << 2;
        break;
      case LIGHT:
        lightTile(at(t, 1), at(t, 2), at(t, 3));
        t += 4 << 2;
        break;
      case HALVE_LIGHT:
        halveLight(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), scratch + REGION_AT);
        t += 6 << 2;
        break;
      case SHARPEN:
        sharpenTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        t += 5 << 2;
        break;
      case NOISE:
        noiseTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        t += 8 << 2;
        break;
      case CONTACT:
        contactMarks(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), scratch + REGION_AT);
        t += 8 << 2;
        break;
      case LAY_CONTACT:
        layContact(
          at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10), at(t, 11),
          at(t, 12), at(t, 13), at(t, 14),
        );
        t += 15 << 2;
        break;
      case BIND:
        bindTile(at(t, 1), at(t, 2), at(t, 3));
        t += 4 << 2;
        break;
      case SMUDGE:
        smudgeMark(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10), at(t, 11), reinterpret<f32>(at(t, 12)), at(t, 13), at(t, 14));
        t += 15 << 2;
        break;
      case SPREAD_CARRIED:
        spreadCarried(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        t += 8 << 2;
        break;
      case SMEAR:
        smearMark(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10), at(t, 11), at(t, 12), at(t, 13), at(t, 14), at(t, 15), at(t, 16), at(t, 17), at(t, 18), at(t, 19), at(t, 20), at(t, 21), scratch);
        t += 22 << 2;
        break;
      case ENCODE_PAINT:
        encodePaint(at(t, 1), at(t, 2), scratch);
        t += 3 << 2;
        break;
      case CLOSE_PAINT:
        closePaint(at(t, 1), at(t, 2));
        t += 3 << 2;
        break;
      case SHOW_PAINT:
        showPaint(at(t, 1), at(t, 2), scratch);
        t += 3 << 2;
        break;
      case WAKE_PAINT:
        wakePaint(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10), at(t, 11), at(t, 12), reinterpret<f32>(at(t, 13)));
        t += 14 << 2;
        break;
      case CLOSE_WET:
        closeWet(at(t, 1), at(t, 2));
        t += 3 << 2;
        break;
      case SWEEP:
        sweepTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), scratch + REGION_AT);
        t += 8 << 2;
        break;
      case SHOW_WET:
        showWet(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), scratch);
        t += 10 << 2;
        break;
      case REST_PAINT:
        restPaint(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6));
        t += 7 << 2;
        break;
      case KNIFE:
        knifeTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6));
        t += 7 << 2;
        break;
      case KNIFE_CREEP:
        knifeCreep(at(t, 1), at(t, 2), reinterpret<f32>(at(t, 3)), reinterpret<f32>(at(t, 4)), reinterpret<f32>(at(t, 5)), at(t, 6));
        t += 7 << 2;
        break;
      case THIN_FIELD:
        thinField(at(t, 1), at(t, 2));
        t += 3 << 2;
        break;
      case THIN_AROUND:
        thinAround(t + 4, at(t, 10), at(t, 11), scratch + REGION_AT);
        t += 12 << 2;
        break;
      case THIN_RUN:
        thinRun(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), reinterpret<f32>(at(t, 7)));
        t += 8 << 2;
        break;
      case WASH_STEP:
        washStep(
          at(t, 1), at(t, 2), t + 12, at(t, 12), at(t, 13), at(t, 14), at(t, 15), at(t, 16), at(t, 17), at(t, 18), at(t, 19),
          at(t, 20), scratch + REGION_AT,
        );
        t += 21 << 2;
        break;
      case WASH_DEVELOP:
        developWash(
          at(t, 1), at(t, 2), t + 12, at(t, 12), at(t, 13), at(t, 14), at(t, 15), at(t, 16), at(t, 17), at(t, 18), at(t, 19),
          scratch + REGION_AT,
        );
        t += 20 << 2;
        break;
      case WASH_MARKS:
        washMarks(
          at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), reinterpret<f32>(at(t, 9)),
          at(t, 10), at(t, 11), at(t, 12), at(t, 13), at(t, 14),
        );
        t += 15 << 2;
        break;
      case LOOK_AT_WASH:
        lookAtWash(at(t, 1), at(t, 2));
        t += 3 << 2;
        break;
      case WAX_RESISTS:
        waxResists(at(t, 1), at(t, 2));
        t += 3 << 2;
        break;
      case LIFT_UNDER:
        liftUnder(at(t, 1), at(t, 2), at(t, 3), reinterpret<f32>(at(t, 4)));
        t += 5 << 2;
        break;
      case DRY_RELIEF:
        dryRelief(at(t, 1), at(t, 2));
        t += 3 << 2;
        break;
      case RASTER_SCENE:
        rasterScene(scratch + REGION_AT, at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        t += 8 << 2;
        break;
      case COLOUR_SCENE:
        colourScene(at(t, 1), at(t, 2), scratch + REGION_AT, scratch + REGION_AT + samplesBytes(SIDE, at(t, 5), at(t, 6)), at(t, 3), at(t, 4), at(t, 5), at(t, 6));
        t += 7 << 2;
        break;
      case FLAT_SCENE:
        flatScene(at(t, 1), at(t, 2), scratch + REGION_AT, at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7));
        t += 8 << 2;
        break;
      case LINE_SCENE:
        lineScene(
          at(t, 1), at(t, 2), scratch + REGION_AT, scratch + REGION_AT + samplesBytes(at(t, 7), at(t, 8), at(t, 9)), at(t, 3), at(t, 4), at(t, 5),
          at(t, 6), at(t, 7), at(t, 8), at(t, 9), load<f32>(t + (10 << 2)), at(t, 11), at(t, 12), at(t, 13),
        );
        t += 14 << 2;
        break;
      case STREW:
        strewTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6));
        t += 7 << 2;
        break;
      case PACK_BITS:
        packBits(at(t, 1), at(t, 2), at(t, 3));
        t += 4 << 2;
        break;
      case SHIFT:
        shiftTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4));
        t += 5 << 2;
        break;
      case HALFTONE:
        halftoneTile(at(t, 1), at(t, 2), at(t, 3), at(t, 4), at(t, 5), at(t, 6), at(t, 7), at(t, 8), at(t, 9), at(t, 10), reinterpret<f32>(at(t, 11)), reinterpret<f32>(at(t, 12)), reinterpret<f32>(at(t, 13)), at(t, 14), at(t, 15), at(t, 16), at(t, 17), at(t, 18));
        t += 19 << 2;
        break;
      case LIGHT_RELIEF:
        lightRelief(at(t, 1), at(t, 2), t + 12, t + 48, scratch + REGION_AT);
        t += 17 << 2;
        break;
      case UNDER:
        layUnder(at(t, 1), at(t, 2));
        t += 3 << 2;
        break;
      default:
        return -1;
    }
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
