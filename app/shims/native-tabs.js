// The router asks of each child of a layout whether it belongs to native tabs.
export const isNativeTabTrigger = () => false;
