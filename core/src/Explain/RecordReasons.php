<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Learn\GivesAccount;
use Dokimos\Core\Learn\GivesPaths;
use Dokimos\Core\Learn\Model;
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
        return new self($model, $prepared, $model instanceof GivesPaths ? $model->sentences($prepared) : []);
    }

    /** What leads to the answer of a tree or of rules; null for all others. */
    public function path(int $row): ?string
    {
        return $this->paths[$row] ?? null;
    }

    /** In one sentence; empty where the model says nothing of single records. */
    public function sentence(int $row): string
    {
        return $this->model instanceof GivesAccount ? $this->model->account($this->prepared, $row)?->sentence() ?? '' : $this->path($row) ?? '';
    }
}
