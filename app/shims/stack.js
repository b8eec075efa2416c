// Stacks of native screens: the router makes one when it is loaded, whether it is drawn or not.
export const createNativeStackNavigator = () => ({ Navigator: () => null });
