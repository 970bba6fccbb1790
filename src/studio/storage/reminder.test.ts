import { copyDue, LATER } from "./reminder";

const DAY = 86_400_000;
const NOW = 1000 * DAY;
const ago = (days: number): number => NOW - days * DAY;
const picture = (created: number, touched = created, sample: string | null = null) => ({
  created: ago(created),
  touched: ago(touched),
  sample,
});
const settings = (changes: object = {}) => ({
  ...{ copied: null, remindAfter: 14, remindLater: 0 },
  ...changes,
});

test.each([
  ["no work, no copy", [], {}, null],
  ["work of yesterday, never copied", [picture(1)], {}, null],
  ["work of three weeks ago, never copied", [picture(21, 2)], {}, { pictures: 1, days: 21 }],
  ["a sample that nobody touched", [picture(90, 90, "night-stop")], {}, null],
  ["a sample that was painted on", [picture(90, 3, "night-stop")], {}, { pictures: 1, days: 90 }],
  ["nothing changed since the copy", [picture(90, 40)], { copied: ago(30) }, null],
  ["changed since a copy of a week ago", [picture(90, 1)], { copied: ago(7) }, null],
  [
    "two changed since a copy of a month ago",
    [picture(90, 1), picture(20), picture(90, 40)],
    { copied: ago(30) },
    { pictures: 2, days: 30 },
  ],
  ["asked for never", [picture(90)], { remindAfter: 0 }, null],
  ["asked for after a week", [picture(8)], { remindAfter: 7 }, { pictures: 1, days: 8 }],
  ["put off a moment ago", [picture(90)], { remindLater: NOW + LATER - 1 }, null],
  ["put off long ago", [picture(90)], { remindLater: NOW - 1 }, { pictures: 1, days: 90 }],
] as const)("%s", (_name, pictures, changes, due) => {
  expect(copyDue(pictures, settings(changes), NOW)).toEqual(due);
});
