/** The id of a part that the server has not seen yet: it gives one. */
export const NOT_GIVEN = "";
