<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\ShowsCourse;
use Dokimos\Core\Learn\ShowsImportance;
use OpenApi\Attributes as OA;

/** How much each column did in a model of many trees, and the error by their number. */
final readonly class TreesSection implements Section
{
    /**
     * @param list<ImportanceView> $importance most first
     * @param list<RoundView>      $course     errors by number of trees
     * @param ?string              $courseOf   what the errors are
     */
    public function __construct(
        #[OA\Property(enum: ['trees'])]
        public string $kind,
        public array $importance,
        public array $course,
        public ?string $courseOf,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        $model = $scoring->model;
        if (!$model instanceof ShowsImportance || [] === $model->importance()) {
            return null;
        }
        $importance = array_map(
            static fn (array $l): ImportanceView => new ImportanceView($l['column'], $l['share']),
            $model->importance(),
        );

        return $model instanceof ShowsCourse
            ? new self(
                'trees',
                $importance,
                RoundView::all($model),
                $model->courseOf(),
            )
            : new self('trees', $importance, [], null);
    }
}
