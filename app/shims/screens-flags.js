// Flags for native screens, of which there are none in a browser.
export const initScreensFeatureFlags = () => {};
