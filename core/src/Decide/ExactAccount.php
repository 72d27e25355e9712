<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

use Dokimos\Core\Explain\LeafAccount;
use Dokimos\Core\Explain\SharesOut;
use Dokimos\Core\Explain\TermsAccount;
use Dokimos\Core\Explain\Told;
use Dokimos\Core\Learn\AddsTerms;
use Dokimos\Core\Learn\Scale;
use Dokimos\Core\Learn\Tree\AddsTrees;
use Dokimos\Core\Table\Table;

/**
 * Shares answers of trees that add up, and of terms of one column or two, out among columns as they came, exactly, against all background
 * records. Laid down once a model. A sum of log-odds is shared out exactly there, and over the difference of chances in proportion.
 * Definition: docs/methods/accounts.md.
 */
final readonly class ExactAccount
{
    /** Leaves beyond which laying it down takes longer than drawing orders. */
    public const MOST = 20_000;

    /** @param list<non-empty-list<string>> $players */
    private function __construct(private SharesOut $sum, private array $players, private Scale $scale)
    {
    }

    /**
     * @param Table $background as the model's select() gives it
     * @param ?int  $class      of several, whose chance it is
     *
     * @return ?self null for other models, calibrated ones, and where a prepared column is made of more than one player
     */
    public static function of(ScoringModel $model, Table $background, ?int $class): ?self
    {
        $trees = $model->model instanceof AddsTrees && $model->isAsLearned() ? $model->model->sum($class, self::MOST) : null;
        $terms = $model->model instanceof AddsTerms && $model->isAsLearned() ? $model->model->terms($class) : null;
        if (null === $trees && null === $terms) {
            return null;
        }
        $together = Players::of($model, $background->names());
        $place = [];
        foreach ($together as $player => $columns) {
            $place += array_fill_keys($columns, $player);
        }
        $players = [];
        foreach ($model->model->columns() as $column) {
            $own = array_values(array_unique(array_map(
                static fn (string $c): int => $place[$c] ?? -1,
                $model->preparation->asks([$column]),
            )));
            if (1 !== \count($own) || -1 === $own[0]) {
                return null;
            }
            $players[$column] = $own[0];
        }
        $prepared = $model->preparation->apply($background);
        $in = array_values(array_diff(array_keys(array_fill(0, $background->rows, true)), array_keys($prepared->out)));
        if ([] === $in) {
            return null;
        }

        $own = $prepared->table->take($in);

        return null !== $trees
            ? new self(new LeafAccount($trees->trees, $trees->start, $players, $own), $together, $trees->scale)
            : new self(new TermsAccount($terms, $players, $own), $together, $terms->scale);
    }

    /**
     * @param Table $record as the model's select() gives it, one row
     *
     * @return ?Told null where there is no answer
     */
    public function told(ScoringModel $model, Table $record): ?Told
    {
        $prepared = $model->preparation->apply($record);
        if ([] !== $prepared->out) {
            return null;
        }
        $own = $this->sum->of($prepared->table, 0, \count($this->players));
        $from = $this->sum->base();
        $to = $from + array_sum($own);
        $rate = $this->scale->rate($from, $to);

        return new Told(
            $this->scale->answer($from),
            $this->scale->answer($to),
            array_map(static fn (float $v): float => $v * $rate, $own),
            array_fill(0, \count($this->players), 0.0),
            $this->players,
            0,
            Scale::AsItIs === $this->scale ? [] : $own,
            $from,
            $this->scale,
        );
    }
}
