export const inOrder = (all: readonly string[], chosen: readonly string[]) => all.filter((id) => chosen.includes(id))
