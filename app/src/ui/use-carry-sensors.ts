import { MouseSensor, TouchSensor, useSensor, useSensors } from '@dnd-kit/core';

/**
 * How something is taken up to be carried: by mouse at once, by a finger after a moment's rest, so that a list still
 * scrolls.
 * @param rest in milliseconds
 */
export const useCarrySensors = (rest = 250) =>
  useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 5 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: rest, tolerance: 8 } }),
  );
