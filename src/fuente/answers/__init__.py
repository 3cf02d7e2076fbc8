"""Quick answers: one question, one answer, without a design. One registry for the command line and the palette."""

from fuente.answers.registry import Answer, Input, Output, answers, ask, find

__all__ = ["Answer", "Input", "Output", "answers", "ask", "find"]
