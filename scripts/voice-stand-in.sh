#!/usr/bin/env bash
# Stands in for a voice of one's own (YARN_STEP_VOICES): reads text on standard input, writes it spoken as WAV to standard output.
exec espeak-ng -v "${1:-en}" -s "${2:-150}" --stdin --stdout
