"""What each table head means: one phrase a head, whatever table it stands in."""

from __future__ import annotations

from collections.abc import Mapping

HEADS: Mapping[str, str] = {
    # what is made and carried
    "Tank": "The tank, and what lives in it.",
    "Animals": "How many animals live in it; type the number.",
    "Each long": "Length of one animal; its weight follows from it.",
    "Fed a day": "Feed a day as a share of the animals' weight.",
    "Feed": "Dry feed a day. Typed, it stands; else it follows from the animals.",
    "Protein": "Share of protein in the dry feed: sixteen hundredths of it are nitrogen.",
    "Ammonia N": "Ammonia a day that the feed becomes, as nitrogen.",
    "Surface needed": "Living surface that takes this ammonia at what you allow in the tank.",
    "Surface there": "Living surface of the filters that this tank's water passes, its part of it.",
    "What carries": "Each filter with living surface, then all that share a water.",
    "Surface": "Living surface in it, by the rules that you chose.",
    "Carries, feed": "Feed a day whose ammonia it takes at the ammonia that you live with.",
    "by all rules": "From the most careful rule to the most hopeful, ±40 % besides.",
    "of your animals": "How many animals like yours that feed keeps.",
    "Held by": "What would have to change before more surface helped.",
    "Rule": "Three ways to say how much media a tank needs.",
    "Needed": "By this rule, for the feed there is.",
    "There": "What the design has of it.",
    "That much carries, feed": "Feed a day that this much carries, from the coarsest to the finest medium.",
    "Finest by coarsest": "How many times more the finest medium carries than the coarsest of the same amount.",
    # media side by side
    "Media": "Bold is in the design. Its figures and their source stand in each line's tip.",
    "Volume": "How much of it has the surface that is wanted.",
    "Cost of it": "That volume at its price, in any money.",
    "Per litre": "Price of a litre, in any money.",
    "Per gallon": "Price of a gallon, in any money.",
    "Per m²": "Price of a square metre of its surface, in any money.",
    "Per ft²": "Price of a square foot of its surface, in any money.",
    "Rinsing": "Time to rinse all of it once in old tank water.",
    "Wet": "What that volume weighs with the water in it.",
    "Bags": "How many bags it takes, none heavier than you lift.",
    "Mature": "Weeks from new until bacteria cover it, typical.",
    "Used up": "What is replaced, not cleaned for ever. Its figures and their source stand in each line's tip.",
    "Sold as": "The piece or the measure that it is sold by.",
    "Price": "Price of one, in any money.",
    "Surface a litre": "Surface of a litre of it.",
    "Surface a gallon": "Surface of a gallon of it.",
    "Lasts": "How long until it is replaced, typical.",
    "For this water": "The dose for the water that is chosen, and what that weighs.",
    "A year": "What a year of it costs for this water, in any money.",
    # what is built and bought
    "What": "The piece, or the step.",
    "How much": "What the design takes, and what is there already.",
    "One costs": "Price of one, in any money; type your own.",
    "Price from": "Whose price it is: typed by you, or a typical one.",
    "Cost": "What the design takes of it, at that price.",
    "Size or state": "Outer sizes of a piece; how far a step is.",
}
