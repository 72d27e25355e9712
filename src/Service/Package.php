<?php

declare(strict_types=1);

namespace App\Service;

use Dokimos\Core\Decide\ExactAccount;
use Dokimos\Core\Decide\Reasoning;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\Basis;

/** All that one version of a service answers with, kept ready so that a call reads one file. */
final readonly class Package
{
    /**
     * @param array<string, mixed>               $model  as ScoringModel writes it
     * @param list<?ExactAccount>                $exact  by class of several; of one answer one
     * @param list<string>                       $known  columns that training had, whether the model asks for them or not
     * @param ?string                            $key    the one that names a record
     * @param array<string, array{float, float}> $ranges least and greatest value of numbers
     */
    public function __construct(
        public int $version,
        public array $model,
        public Basis $basis,
        public array $exact,
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
        return ScoringModel::fromArray($this->model);
    }

    public function reasoning(ScoringModel $model): Reasoning
    {
        return new Reasoning($model, $this->basis, fn (?int $class): ?ExactAccount => $this->exact[$class ?? 0] ?? null);
    }

    public function written(): string
    {
        return base64_encode((string) gzdeflate(serialize($this), 3));
    }

    public static function read(string $written): self
    {
        $found = unserialize((string) gzinflate((string) base64_decode($written, true)));

        return $found instanceof self ? $found : throw new \UnexpectedValueException('This version was packed by another release.');
    }
}
