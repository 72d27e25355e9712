<?php

declare(strict_types=1);

namespace App\Service;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\Sure;

/** All that one version of a service answers with, but for reasons: as code, so that processes share it and a call unpacks nothing. */
final readonly class Package
{
    /**
     * @param array<array-key, mixed>            $model  as ScoringModel writes it, unpacked
     * @param list<string>                       $known  columns that training had, whether the model asks for them or not
     * @param ?string                            $key    the one that names a record
     * @param array<string, array{float, float}> $ranges least and greatest value of numbers
     */
    public function __construct(
        public int $version,
        public array $model,
        public Sure $sure,
        public array $known,
        public ?string $key,
        public array $ranges,
        public string $rule,
        public float $cutoff,
        public string $target,
        public Bins $bins,
    ) {
    }

    public function scoring(): ScoringModel
    {
        /** @var array<string, mixed> $model */
        $model = $this->model;

        return ScoringModel::fromArray($model);
    }

    /**
     * Read back from code that var_export() wrote.
     *
     * @param array<string, mixed> $state
     */
    public static function __set_state(array $state): self
    {
        /**
         * @var array{
         *     version: int, model: array<array-key, mixed>, sure: Sure, known: list<string>, key: ?string,
         *     ranges: array<string, array{float, float}>, rule: string, cutoff: float, target: string, bins: Bins,
         * } $state
         */
        return new self(...$state);
    }
}
