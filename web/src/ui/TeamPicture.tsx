import {
  Anchor,
  Bird,
  Fish,
  Flag,
  LifeBuoy,
  Moon,
  Mountain,
  Sailboat,
  Shell,
  Ship,
  Shrimp,
  Sun,
  Turtle,
  Umbrella,
  Waves,
  Wind,
  type LucideIcon,
} from 'lucide-react';
import type { TeamPicture as Name } from '@vigilum/core/classroom';

const icons: Record<Name, LucideIcon> = {
  anchor: Anchor,
  ship: Ship,
  yacht: Sailboat,
  fish: Fish,
  shell: Shell,
  shrimp: Shrimp,
  turtle: Turtle,
  bird: Bird,
  lifebuoy: LifeBuoy,
  waves: Waves,
  sun: Sun,
  moon: Moon,
  umbrella: Umbrella,
  wind: Wind,
  mountain: Mountain,
  flag: Flag,
};

/** One of the pictures by which teams come in. The word stands beside it wherever it is shown. */
export function TeamPicture({ name, size }: { name: Name; size: number }) {
  const Icon = icons[name];
  return <Icon size={size} aria-hidden="true" />;
}
