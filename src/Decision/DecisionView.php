<?php

declare(strict_types=1);

namespace App\Decision;

/** A decision with all that its list costs and brings. */
final readonly class DecisionView
{
    /**
     * @param bool                 $own         whether the model was fitted on these very records
     * @param string               $event       that is acted against, in words
     * @param int                  $scored      records with an answer
     * @param int                  $unknown     of them without a value, so that they are not on the list
     * @param int                  $paying      records that acting on is expected to pay, capacity aside
     * @param int                  $left        left untouched by draw
     * @param ?float               $visible     smallest share prevented that these would show; null where there are too few
     * @param ?DrawnView           $drawn       null where nothing is acted on, or of several classes
     * @param list<CurvePointView> $curve       best records first, from none to all
     * @param float                $none        what is expected to be lost were nothing done
     * @param list<int>            $histogram   records by fortieth of the chance
     * @param list<int>            $actedBy     of them on the list
     * @param list<TierCellView>   $cells       lowest chance first, within it the lowest value
     * @param list<TierLineView>   $tiers       those on the list
     * @param list<AssumptionView> $assumptions
     * @param ?float               $costBorne   cost of an action at which the list would return nothing
     * @param ?float               $worksBorne  share of actions that work at which it would
     * @param list<ActionLineView> $actions     of several classes, how many get which
     * @param ?string              $key         column that tells records apart
     * @param list<string>         $columns     of the scored table
     * @param list<string>         $numbers     of them those of numbers
     * @param list<string>         $classes     of several
     */
    public function __construct(
        public int $id,
        public int $version,
        public string $name,
        public int $studyId,
        public int $scoringId,
        public string $tableName,
        public bool $own,
        public int $trialNumber,
        public string $task,
        public string $target,
        public string $event,
        public DecisionTerms $terms,
        public int $rows,
        public int $scored,
        public int $unknown,
        public int $paying,
        public ListFiguresView $acted,
        public ?DrawnView $drawn,
        public ListFiguresView $best,
        public ListFiguresView $all,
        public float $none,
        public int $left,
        public ?float $visible,
        public array $curve,
        public ?CutOffView $cutOff,
        public array $histogram,
        public array $actedBy,
        public array $cells,
        public array $tiers,
        public array $assumptions,
        public ?float $costBorne,
        public ?float $worksBorne,
        public array $actions,
        public ?MeasuredView $measured,
        public ?string $key,
        public array $columns,
        public array $numbers,
        public array $classes,
    ) {
    }
}
