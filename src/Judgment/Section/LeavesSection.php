<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\Tree\ShowsLeaves;
use OpenApi\Attributes as OA;

/** A tree that is read leaf by leaf, on a page of its own. */
final readonly class LeavesSection implements Section
{
    public function __construct(
        #[OA\Property(enum: ['leaves'])]
        public string $kind,
        public string $size,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        return $scoring->model instanceof ShowsLeaves ? new self('leaves', $scoring->model->size()) : null;
    }
}
