<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Account\User;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Table\TableColumn;
use App\Table\TableReader;
use App\Trial\Ground;
use App\Trial\Trial;
use App\Trial\TrialFigures;
use App\Trial\TrialView;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\TreeReading;
use Dokimos\Core\Learn\Boosting\BoostedModel;
use Dokimos\Core\Learn\Forest\ForestModel;
use Dokimos\Core\Learn\Logistic\Coefficient;
use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learn\Tree\TreeModel;

/** Judges trials: figures, the records behind them, and the sealed rows when they are opened. */
final readonly class Judgments
{
    public function __construct(private Ground $ground, private TableReader $reader, private Logbook $logbook, private EntityManagerInterface $entities)
    {
    }

    public function model(Trial $trial): ScoringModel
    {
        $model = $trial->model();
        if (!$trial->isDone() || null === $model) {
            throw new Problem(409, match ($trial->state()) {
                Trial::FAILED => \sprintf('Trial %d could not be fitted: %s', $trial->number(), $trial->failure() ?? ''),
                Trial::CANCELLED => \sprintf('Trial %d was cancelled.', $trial->number()),
                default => \sprintf('Trial %d is still being fitted.', $trial->number()),
            });
        }

        return ScoringModel::fromArray($model);
    }

    public function of(Trial $trial): JudgmentView
    {
        $scoring = $this->model($trial);
        $model = $scoring->model;
        $logistic = $model instanceof LogisticModel ? $model : null;
        $coefficients = array_map(static function (Coefficient $c): CoefficientView {
            $a = $c->toArray();

            return new CoefficientView($a['name'], $a['estimate'], $a['se'], $a['z'], $a['p'], $a['ci_low'], $a['ci_high'], $a['odds_ratio'], $a['or_ci_low'], $a['or_ci_high']);
        }, null === $logistic ? [] : $logistic->coefficients);

        // Without costs, "above average" is a cut-off that was not picked on the rows it is judged on.
        return new JudgmentView(TrialView::of($trial), $trial->study()->target(), $trial->study()->event(), max(0.01, round($scoring->baseRate, 2)), $trial->figures(), $coefficients, $trial->sealedFigures(), \count($trial->study()->sealedRows()), $model->notes(), $logistic?->figures->toArray() ?? [], self::choice($logistic->trace ?? []), ...self::trees($model));
    }

    /**
     * @param list<array<string, mixed>> $trace
     *
     * @return list<ChoiceStepView>
     */
    private static function choice(array $trace): array
    {
        $steps = [];
        foreach ($trace as $t) {
            /** @var array{action: string, term?: ?string, aic?: float|int, model?: list<string>, candidates?: list<array{term: ?string, p?: float|int}>} $t */
            $p = null;
            foreach ($t['candidates'] ?? [] as $candidate) {
                $p = $candidate['term'] === ($t['term'] ?? null) && isset($candidate['p']) ? (float) $candidate['p'] : $p;
            }
            $steps[] = new ChoiceStepView($t['action'], $t['term'] ?? null, $p, isset($t['aic']) ? (float) $t['aic'] : null, $t['model'] ?? []);
        }

        return $steps;
    }

    /** @return array{list<ImportanceView>, list<RoundView>, ?string} */
    private static function trees(Model $model): array
    {
        $importance = $model instanceof ForestModel || $model instanceof BoostedModel ? array_map(static fn (array $l): ImportanceView => new ImportanceView($l['column'], $l['share']), $model->importance) : [];

        return match (true) {
            $model instanceof ForestModel => [$importance, array_map(static fn (array $c): RoundView => new RoundView($c['trees'], null, $c['out_of_bag']), $model->curve), 'Brier score of rows that a tree was not grown on'],
            $model instanceof BoostedModel => [$importance, array_map(static fn (array $c): RoundView => new RoundView($c['trees'], $c['training'], $c['validation']), $model->curve), 'log loss'],
            default => [[], [], null],
        };
    }

    public function tree(Trial $trial): TreeView
    {
        $scoring = $this->model($trial);
        if (!$scoring->model instanceof TreeModel) {
            throw new Problem(404, \sprintf('Trial %d is no decision tree.', $trial->number()));
        }
        // The same cut-off as the judgment suggests: leaves whose interval holds it say neither one nor the other.
        $cutoff = max(0.01, round($scoring->baseRate, 2));

        return new TreeView($trial->id(), $trial->number(), $scoring->event, $trial->study()->target(), $scoring->baseRate, $cutoff, TreeReading::of($scoring->model, $cutoff));
    }

    /** @param 'tp'|'fp'|'fn'|'tn' $cell */
    public function records(Trial $trial, string $cell, float $cutoff, int $offset, int $limit): RecordsView
    {
        $this->model($trial);
        [, $event, $rows] = $this->ground->open($trial->study(), []);
        $chances = $trial->chances();
        $picked = [];
        foreach ($chances as $i => $c) {
            if (!is_nan($c) && ($c >= $cutoff) === \in_array($cell, ['tp', 'fp'], true) && ($event[$i] > 0.5) === \in_array($cell, ['tp', 'fn'], true)) {
                $picked[$i] = $c;
            }
        }
        'fn' === $cell || 'tn' === $cell ? asort($picked) : arsort($picked);
        $page = \array_slice($picked, max(0, $offset), max(1, min(200, $limit)), true);
        $table = $this->ground->table($trial->study());
        $cells = [] === $page ? [] : $this->reader->rows($table, array_map(static fn (int $i) => $rows[$i], array_keys($page)));
        $records = [];
        foreach ($page as $i => $c) {
            $records[] = new JudgedRecord($rows[$i] + 1, $c, $event[$i] > 0.5, $cells[$rows[$i]]);
        }

        return new RecordsView(\count($picked), array_map(static fn (TableColumn $c) => $c->name(), $table->columns()), $records);
    }

    /** Looks at the sealed rows once for this trial, and writes it down. */
    public function openSeal(Trial $trial, User $user): void
    {
        if (null !== $trial->sealedFigures()) {
            throw new Problem(409, 'The seal of this trial was opened before; its figures stand.');
        }
        $model = $this->model($trial);
        $study = $trial->study();
        if ([] === $study->sealedRows()) {
            throw new Problem(409, 'This study has no sealed rows.');
        }
        $before = \count(array_filter($this->entities->getRepository(Trial::class)->findBy(['study' => $study]), static fn (Trial $t) => null !== $t->sealedFigures()));
        [$table, $event] = $this->ground->sealed($study, array_values($model->byName()));
        $chances = $model->chances($table);
        $trial->openSeal(TrialFigures::of($event, $chances) + ['opening' => $before + 1]);
        $auc = $trial->sealedFigures()['auc'] ?? null;
        $this->logbook->write($study, $user, 'judgment', \sprintf('Seal opened for trial %d, opening %d of this study: %s on %s sealed rows.', $trial->number(), $before + 1, \is_array($auc) ? \sprintf('AUC %.3f (%.3f to %.3f)', $auc['value'], $auc['low'], $auc['high']) : 'no AUC', number_format(\count($event))));
        $this->entities->flush();
    }
}
