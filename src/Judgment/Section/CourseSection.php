<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\ShowsCourse;
use Dokimos\Core\Learn\ShowsImportance;
use OpenApi\Attributes as OA;

/** How the error of a model fell while it was fitted, where nothing else is to be shown of it. */
final readonly class CourseSection implements Section
{
    /**
     * @param list<RoundView> $course
     * @param string          $courseOf what the errors are
     * @param string          $by       what a round is
     */
    public function __construct(
        #[OA\Property(enum: ['course'])]
        public string $kind,
        public array $course,
        public string $courseOf,
        public string $by,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        $model = $scoring->model;

        return $model instanceof ShowsCourse && !$model instanceof ShowsImportance && [] !== $model->course()
            ? new self('course', RoundView::all($model), $model->courseOf(), $model->courseBy())
            : null;
    }
}
