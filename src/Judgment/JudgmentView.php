<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Trial\TrialView;

/** How good a trial is on rows its models had not seen. */
final readonly class JudgmentView
{
    /**
     * @param array<string, mixed>          $figures      of the validation rows
     * @param list<CoefficientView>         $coefficients of a regression, the constant first
     * @param array<string, mixed>|null     $sealed       figures of the sealed rows, once opened
     * @param list<string>                  $notes
     * @param array<string, int|float|null> $fit          what the fit on all unsealed rows says about itself
     * @param list<ChoiceStepView>          $choice       steps by which a regression chose its columns
     * @param ?string                       $choiceBy     what those steps go by
     * @param list<RuleView>                $rules        in the order they answer; the last is for every other record
     * @param list<ImportanceView>          $importance   how much each column did in a forest or a boosted model; most first
     * @param list<RoundView>               $curve        errors by number of trees
     * @param ?string                       $curveSays    what the curve measures
     */
    public function __construct(
        public TrialView $trial,
        public ?string $target,
        public ?string $event,
        public float $suggestedCutoff,
        public array $figures,
        public array $coefficients,
        public ?array $sealed,
        public int $sealedRows,
        public array $notes,
        public array $fit,
        public array $choice,
        public ?string $choiceBy,
        public array $rules,
        public array $importance,
        public array $curve,
        public ?string $curveSays,
    ) {
    }
}
