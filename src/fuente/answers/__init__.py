"""Quick answers: one question, one answer, without a design. One registry for the command line and the palette."""

from fuente.answers.question import Answer, Input, Output
from fuente.answers.registry import answers, ask, find

__all__ = ["Answer", "Input", "Output", "answers", "ask", "find"]
