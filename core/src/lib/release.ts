/** The version of Zephyrfield (Semantic Versioning 2.0.0). The packages and the changelog say the same; a test compares them. */
export const RELEASE = '1.0.0';
