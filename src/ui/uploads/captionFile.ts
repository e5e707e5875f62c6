export const isCaptionFile = ({ name }: File): boolean => /\.(srt|vtt)$/i.test(name)
