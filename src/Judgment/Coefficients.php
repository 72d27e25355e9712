<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Question\OpenCells;
use App\Trial\Ground;
use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\Step;
use Dokimos\Core\Explain\Steps;
use Dokimos\Core\Learn\Linear\LinearModel;
use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Learn\Logistic\MultinomialModel;
use Dokimos\Core\Table\DateColumn;

/** The coefficients of a trial's regression, with what each is told for. */
final readonly class Coefficients
{
    private const SPREAD_OF = 2000;

    public function __construct(private Ground $ground, private OpenCells $reader)
    {
    }

    /** @return list<CoefficientView> the constant first; none for another model */
    public function of(Trial $trial, ScoringModel $scoring): array
    {
        $model = $scoring->model;
        if (!$model instanceof LinearModel && !$model instanceof LogisticModel && !$model instanceof MultinomialModel) {
            return [];
        }
        [$steps, $days] = $this->steps($trial, $scoring, $model);
        $against = Steps::against($model->coding);
        $one = Step::plain(1.0);
        $views = [];
        if ($model instanceof LinearModel) {
            $inflation = array_column($model->inflation(), 'vif', 'name');
            foreach ($model->coefficients() as $c) {
                $views[] = CoefficientView::told($steps[$c['name']] ?? $one, $c['name'], null, isset($days[$c['name']]), $against[$c['name']] ?? null, $c['estimate'], $c['se'], $c['t'], $c['p'], $c['ci_low'], $c['ci_high'], null, null, null, $inflation[$c['name']] ?? null);
            }

            return $views;
        }
        foreach ($model instanceof LogisticModel ? [$model->coefficients] : $model->coefficients as $k => $own) {
            foreach ($own as $c) {
                $a = $c->toArray();
                $views[] = CoefficientView::told($steps[$a['name']] ?? $one, $a['name'], $model instanceof MultinomialModel ? $model->classes()[$k + 1] : null, isset($days[$a['name']]), $against[$a['name']] ?? null, $a['estimate'], $a['se'], $a['z'], $a['p'], $a['ci_low'], $a['ci_high'], $a['odds_ratio'], $a['or_ci_low'], $a['or_ci_high'], null);
            }
        }

        return $views;
    }

    /** @return array{array<string, Step>, array<string, bool>} from open rows of the table as it is now, prepared as the model was; which of them are days */
    private function steps(Trial $trial, ScoringModel $scoring, LinearModel|LogisticModel|MultinomialModel $model): array
    {
        $table = $this->ground->table($trial->study());
        [$cells] = $this->reader->sample($table, array_values(array_filter(array_keys($scoring->byName()), static fn (string $name): bool => null !== $table->column($name))), self::SPREAD_OF);
        if (0 === $cells->rows) {
            return [[], []];
        }
        $apart = max(1, intdiv($cells->rows, self::SPREAD_OF));
        $some = $cells->take(range(0, $cells->rows - 1, $apart));

        $selected = $scoring->select($some, $scoring->byName());
        $prepared = $scoring->preparation->apply($selected)->table;
        $steps = Steps::of($model->coding, $prepared, range(0, $prepared->rows - 1), $selected);

        return [$steps, array_map(static fn (): bool => true, array_filter($steps, static fn (string $name): bool => $prepared->column($name) instanceof DateColumn, \ARRAY_FILTER_USE_KEY))];
    }
}
