// The router wraps everything in a provider for what pages put into the document's head. Ours put nothing
// there.
export const Head = { Provider: ({ children }) => children };
