<?php

declare(strict_types=1);

namespace App\Trial;

use App\Question\Ground;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Validate\TrialData;

/** What a trial learned from and was judged on, for whoever fits its folds once more. */
final readonly class TrialFolds
{
    public function __construct(private Ground $ground, private MoreRows $moreRows)
    {
    }

    /** @return array{TrialData, list<array{validation: list<int>, training: list<int>}>} data, and the folds of the first round, whole */
    public function of(Trial $trial): array
    {
        $study = $trial->study();
        $question = $trial->question();
        $split = $question->plan() ?? throw new \LogicException('A trial has a split plan.');
        [$table, $outcome, $rows] = $this->ground->open($study, $this->ground->needed($study, $trial->steps(), $trial->inputs()));
        $labels = $this->ground->labels($study, $rows);
        $weights = $this->ground->weights($study, $rows);
        [$table, $stacked, $counted, $apart, $more] = $this->moreRows->below($trial, $table, $outcome, $weights, $labels);
        $data = new TrialData(
            $table,
            $trial->inputs(),
            $stacked,
            Preparation::fromArray($trial->steps()),
            $question->classes(),
            $counted,
            $split->apart($apart),
            $trial->choice(),
        );
        $all = array_keys($outcome);

        return [$data, array_map(
            static fn (array $validation): array => [
                'validation' => $validation,
                'training' => [...$split->training($outcome, $all, $validation, $labels), ...$more],
            ],
            array_values($split->parts($outcome, $all, 0, $labels)),
        )];
    }
}
