/**
 * Which key does what. One idea: tap to switch, hold to borrow. Keys are named by their
 * place on the keyboard (`KeyboardEvent.code`), so they lie under the same finger whatever
 * the layout's language.
 */
export const keyActions = {
  paint: { code: "KeyA", tap: "Paint", hold: "" },
  lift: { code: "KeyD", tap: "Lift", hold: "Lift, or take away what is selected, while held" },
  blend: { code: "KeyF", tap: "Blend", hold: "Blend while held" },
  amounts: { code: "KeyS", tap: "", hold: "drag: size across, strength up and down" },
  lastBrush: { code: "KeyQ", tap: "last brush", hold: "favourites at the pen" },
  select: { code: "KeyW", tap: "lasso", hold: "" },
  fill: { code: "KeyE", tap: "fill", hold: "" },
  lines: { code: "Digit3", tap: "correct lines", hold: "" },
  pick: { code: "KeyC", tap: "", hold: "pick a colour" },
  swap: { code: "KeyX", tap: "swap colours", hold: "" },
  mirror: { code: "KeyB", tap: "mirror view", hold: "mirror while held" },
  guides: { code: "KeyG", tap: "guides on or off", hold: "follow guides while held" },
  values: { code: "KeyV", tap: "values", hold: "values while held" },
  squint: { code: "KeyT", tap: "squint", hold: "squint while held" },
  transform: { code: "KeyY", tap: "transform a layer", hold: "" },
  paler: { code: "Comma", tap: "layer a little more transparent", hold: "" },
  fuller: { code: "Period", tap: "layer a little more opaque", hold: "" },
  blendBefore: { code: "Semicolon", tap: "blend mode before", hold: "" },
  blendAfter: { code: "Quote", tap: "blend mode after", hold: "" },
  turn: { code: "KeyR", tap: "upright", hold: "drag: turn the view" },
  zoom: { code: "KeyZ", tap: "fit", hold: "drag: zoom" },
} as const satisfies Record<string, { code: string; tap: string; hold: string }>;

export type KeyAction = keyof typeof keyActions;
export type KeyMap = Readonly<Record<KeyAction, string>>;

const actions = Object.keys(keyActions) as KeyAction[];

export const firstKeys: KeyMap = Object.fromEntries(
  actions.map((action) => [action, keyActions[action].code]),
) as Record<KeyAction, string>;

/** Keys that may be given to an action: letters, digits and what lies beside them. */
const ASSIGNABLE =
  /^(Key[A-Z]|Digit\d|Numpad\d|Backquote|Minus|Equal|Bracket(Left|Right)|Semicolon|Quote|Comma|Period|Slash|Backslash|IntlBackslash)$/;

export const isAssignable = (code: string): boolean => ASSIGNABLE.test(code);

/** The map with `action` on `code`; what had that key takes the one that `action` leaves. */
export function withKey(map: KeyMap, action: KeyAction, code: string): KeyMap {
  const had = actions.find((other) => map[other] === code);
  const next = { ...map, [action]: code };
  if (had && had !== action) next[had] = map[action];
  return next;
}

/** The keys a person has chosen, over the first ones. What is unknown, bad or doubled is left out. */
export function readKeys(chosen: Readonly<Record<string, string>>): KeyMap {
  let map = firstKeys;
  for (const action of actions) {
    const code = chosen[action];
    if (code && isAssignable(code)) map = withKey(map, action, code);
  }
  return map;
}

/** Only what differs from the first keys: what is worth keeping. */
export function changedKeys(map: KeyMap): Record<string, string> {
  return Object.fromEntries(
    Object.entries(map).filter(([action, code]) => firstKeys[action as KeyAction] !== code),
  );
}

const signs: Record<string, string> = {
  Backquote: "`",
  Minus: "-",
  Equal: "=",
  BracketLeft: "[",
  BracketRight: "]",
  Semicolon: ";",
  Quote: "'",
  Comma: ",",
  Period: ".",
  Slash: "/",
  Backslash: "\\",
  IntlBackslash: "<",
};

/** How a key is written: "A", "7", "num 7", ";". */
export function keyName(code: string): string {
  const [, letter] = /^(?:Key|Digit)(.)$/.exec(code) ?? [];
  if (letter) return letter;
  const [, pad] = /^Numpad(\d)$/.exec(code) ?? [];
  return pad ? `num ${pad}` : (signs[code] ?? code);
}
