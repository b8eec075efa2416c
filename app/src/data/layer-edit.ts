import type { LayerChange, PersonLayerChange } from '@zephyrfield/core/api/layer';

/** What may change of what the crew shares, and of what a person has for themselves: one of the two at a time. */
export type LayerEdit = Omit<LayerChange & PersonLayerChange, 'recurrenceId' | 'version'>;
