<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\ShownEvidence;
use Dokimos\Core\Learn\ShowsEvidence;
use OpenApi\Attributes as OA;

/** What each value speaks for, and where the balance stands before anything is known. */
final readonly class EvidenceSection implements Section
{
    /**
     * @param list<string>        $classes
     * @param list<float>         $outset   log-odds of each class at the outset
     * @param list<ShownEvidence> $evidence columns that tell most first
     */
    public function __construct(
        #[OA\Property(enum: ['evidence'])]
        public string $kind,
        public array $classes,
        public array $outset,
        public array $evidence,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        $model = $scoring->model;

        return $model instanceof ShowsEvidence && [] !== $model->evidence()
            ? new self('evidence', $model->classes(), $model->outset(), $model->evidence())
            : null;
    }
}
