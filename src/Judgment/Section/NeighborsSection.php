<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\ShowsNeighbors;
use OpenApi\Attributes as OA;

/** How many of the training rows most like a record answer for it, and how that number was chosen. */
final readonly class NeighborsSection implements Section
{
    /**
     * @param list<WeighedNeighborsView> $weighed numbers of neighbors with what they lose on inner folds; none where the number was given
     */
    public function __construct(
        #[OA\Property(enum: ['neighbors'])]
        public string $kind,
        public int $asked,
        public string $size,
        public array $weighed,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        $model = $scoring->model;

        return $model instanceof ShowsNeighbors ? new self('neighbors', $model->asked(), $model->size(), array_map(
            static fn (array $w): WeighedNeighborsView => new WeighedNeighborsView($w['k'], $w['loss']),
            $model->weighed(),
        )) : null;
    }
}
