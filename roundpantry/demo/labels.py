"""Made-up package labels of the invented practice; one contradicts itself on purpose and stays a
draft.
"""

LABELS = (
    "Quay tempeh, plain. Net 8 oz (227 g). Servings per package 2.5. Per serving (84 g): 160 "
    "kcal, fat 5 g, saturates 1 g, "
    "sodium 10 mg, carbohydrate 12 g, fibre 6 g, protein 18 g, iron 2 mg, potassium 340 mg, "
    "calcium 70 mg. "
    "Ingredients: soybeans, water, vinegar, culture.",
    "Fairway soya drink, fortified. Net 1 l. Per 100 ml: 165 kJ / 39 kcal, fat 1.9 g, of which "
    "saturates 0.3 g, "
    "carbohydrate 2.4 g, of which sugars 1.9 g, fibre 0.5 g, protein 3.1 g, salt 0.1 g, calcium "
    "120 mg, vitamin D 0.75 µg, "
    "vitamin B12 0.38 µg, iodine 22 µg. Ingredients: water, soya beans 8 %, sugar, tricalcium "
    "phosphate, sea salt, "
    "vitamins B12 and D2, potassium iodide.",
    "Harbour hummus without sesame. Net 200 g. Servings per package 4. Serving size 3 tbsp (50 "
    "g): 90 kcal, fat 4 g, "
    "saturated fat 0.5 g, sodium 150 mg, carbohydrate 9 g, fibre 3 g, sugars 1 g, protein 4 g. "
    "Ingredients: chickpeas, sunflower seeds, lemon juice, rapeseed oil, salt, garlic.",
    "Lightship rye crackers. Net 250 g. Per serving (20 g): 310 kcal, fat 0.4 g, carbohydrate 13 "
    "g, fibre 3 g, protein 2 g, "
    "sodium 0.9 g. Ingredients: wholemeal rye flour, salt.",
)
