import { type Settings } from "../storage/records";

export type Room = Settings["room"];

/** The achromatic rooms. `surround` lies around the picture; the rest is in _rooms.scss. */
export const rooms: Record<Room, { label: string; surround: string }> = {
  day: { label: "Day", surround: "#cdcdcd" },
  studio: { label: "Studio", surround: "#7d7d7d" },
  night: { label: "Night", surround: "#1c1c1c" },
};

export function enterRoom(room: Room): void {
  document.documentElement.dataset.room = room;
}
