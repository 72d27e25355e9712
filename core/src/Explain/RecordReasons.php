<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Learn\Linear\LinearModel;
use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learn\Rules\RuleModel;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Table\Table;

/** Why a model answers as it does for each record, as far as it can say so itself: a regression's account, the path to a leaf, the rule that answered. */
final readonly class RecordReasons
{
    /** @param list<string> $paths one per record, of a tree or of rules */
    private function __construct(private Model $model, private Table $prepared, private array $paths)
    {
    }

    public static function of(Model $model, Table $prepared): self
    {
        $paths = [];
        if ($model instanceof TreeModel) {
            $sentences = TreeReading::sentences($model);
            $paths = array_map(static fn (int $leaf): string => $sentences[$leaf] ?? '', $model->leaves($prepared));
        } elseif ($model instanceof RuleModel) {
            $paths = array_map(static fn (int $rule): string => $model->rules[$rule]->sentence(), $model->first($prepared));
        }

        return new self($model, $prepared, $paths);
    }

    /** What leads to the answer of a tree or of rules; null for all others. */
    public function path(int $row): ?string
    {
        return $this->paths[$row] ?? null;
    }

    /** In one sentence; empty where the model says nothing of single records. */
    public function sentence(int $row): string
    {
        if ($this->model instanceof LogisticModel) {
            return Contributions::sentence(Contributions::of($this->model, $this->prepared, $row)['columns'] ?? []);
        }
        if ($this->model instanceof LinearModel) {
            $columns = Contributions::ofNumber($this->model, $this->prepared, $row)['columns'] ?? [];

            // Effects in the unit of the number: those of a hundredth of the largest say nothing beside it.
            return Contributions::sentence($columns, 3, 0.01 * abs($columns[0]['effect'] ?? 0.0));
        }

        return $this->path($row) ?? '';
    }
}
