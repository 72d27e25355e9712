<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Question\Ground;
use App\Question\OpenCells;
use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Design\Coding;
use Dokimos\Core\Explain\Step;
use Dokimos\Core\Explain\Steps;
use Dokimos\Core\Learn\ReportsFit;
use Dokimos\Core\Learn\ShownCoefficient;
use Dokimos\Core\Learn\ShowsChoice;
use Dokimos\Core\Learn\ShowsCoefficients;
use Dokimos\Core\Table\DateColumn;

/** The coefficients of a trial's regression, with what each is told for. */
final readonly class Coefficients
{
    private const SPREAD_OF = 2000;

    public function __construct(private Ground $ground, private OpenCells $reader)
    {
    }

    /** Null for a model without coefficients. */
    public function of(Trial $trial, ScoringModel $scoring): ?CoefficientsSection
    {
        $model = $scoring->model;
        if (!$model instanceof ShowsCoefficients) {
            return null;
        }
        [$steps, $days] = $this->steps($trial, $scoring, $model->coding());
        $against = Steps::against($model->coding());
        $one = Step::plain(1.0);

        $views = array_map(
            static fn (ShownCoefficient $c): CoefficientView => CoefficientView::told(
                $steps[$c->name] ?? $one,
                $c,
                isset($days[$c->name]),
                $against[$c->name] ?? null,
            ),
            $model->shownCoefficients(),
        );
        $chosen = $model instanceof ShowsChoice && [] !== $model->trace();

        return [] === $views ? null : new CoefficientsSection(
            'coefficients',
            $views,
            $chosen,
            $model instanceof ReportsFit ? $model->fit() : [],
        );
    }

    /** @return array{array<string, Step>, array<string, bool>} from open rows of the table as it is now, prepared as the model was; which of them are days */
    private function steps(Trial $trial, ScoringModel $scoring, Coding $coding): array
    {
        $table = $this->ground->table($trial->study());
        [$cells] = $this->reader->sample(
            $table,
            array_values(array_filter(array_keys($scoring->byName()), static fn (string $name): bool => null !== $table->column($name))),
            self::SPREAD_OF,
        );
        if (0 === $cells->rows) {
            return [[], []];
        }
        $apart = max(1, intdiv($cells->rows, self::SPREAD_OF));
        $some = $cells->take(range(0, $cells->rows - 1, $apart));

        $selected = $scoring->select($some, $scoring->byName());
        $prepared = $scoring->preparation->apply($selected)->table;
        $steps = Steps::of($coding, $prepared, range(0, $prepared->rows - 1), $selected);

        return [
            $steps,
            array_map(
                static fn (): bool => true,
                array_filter(
                    $steps,
                    static fn (string $name): bool => $prepared->column($name) instanceof DateColumn,
                    \ARRAY_FILTER_USE_KEY,
                ),
            ),
        ];
    }
}
