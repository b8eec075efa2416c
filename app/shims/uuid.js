// Expo puts this on its global; browsers have it themselves.
export default { v4: () => crypto.randomUUID() };
