<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Judgment\Judgments;
use App\Trial\Forecasts;
use App\Trial\Trial;
use App\Trial\TrialFolds;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Progress;
use Dokimos\Core\Stamp;
use Dokimos\Core\Validate\PairsByChance;
use Psr\Cache\CacheItemPoolInterface;

/** How much pairs seem to do together by chance alone: what is above it is clear of chance. */
final readonly class ClearPairs
{
    private const KEPT = 86400 * 90;
    private const FORM = 1;
    private const SEED = 2026;
    /** Trees of one question each: their sum has no two columns in one term. */
    private const ADDITIVE = ['trees' => 400, 'leaves' => 2, 'rate' => 0.1, 'patience' => 30];

    public function __construct(
        private Judgments $judgments,
        private Bases $bases,
        private Matters $matters,
        private TrialFolds $folds,
        private CacheItemPoolInterface $pool,
        private Jobs $jobs,
        private Forecasts $forecasts,
    ) {
    }

    /** @return array<string, array<string, mixed>> */
    private static function asks(?string $class): array
    {
        return ['all' => ['class' => $class]];
    }

    public function start(Trial $trial, User $user, ?string $class): Job
    {
        Effects::place($this->bases->reasoning($trial), $class);
        $this->judgments->onItsRows($trial);
        if ([] === $this->matters->pairs($trial, $class)) {
            throw new Problem(409, 'What matters has not been looked at yet; pairs are looked for among what matters most.');
        }

        return $this->jobs->once(
            $trial->study(),
            $user,
            ClearPairsRunner::KIND,
            $trial->id(),
            \sprintf('Which pairs of trial %d are clear of chance', $trial->number()),
            Jobs::LONG,
            self::asks($class),
        );
    }

    public function look(Trial $trial, ?string $class, Progress $progress): void
    {
        $item = $this->pool->getItem(self::key($trial, $class));
        if ($item->isHit()) {
            return;
        }
        $reasoning = $this->bases->reasoning($trial);
        $columns = array_map(static fn (MatterLine $l): string => $l->column, $this->matters->of($trial, $class)->columns);
        [, $columns] = Effects::paired($reasoning, $columns);
        [$data] = $this->folds->of($trial);
        $told = PairsByChance::of(
            $data,
            Learners::make('boosting', self::ADDITIVE),
            $trial->refitted(),
            $trial->part(),
            $columns,
            Effects::place($reasoning, $class),
            self::SEED,
            $progress,
        );
        $this->pool->save($item->set($told)->expiresAfter(self::KEPT));
    }

    public function view(Trial $trial, ?string $class): ClearPairsView
    {
        $item = $this->pool->getItem(self::key($trial, $class));
        /** @var array{sizes: list<array{one: string, other: string, size: float}>, most: list<float>}|null $told */
        $told = $item->isHit() ? $item->get() : null;
        $most = null === $told ? null : max([0.0, ...$told['most']]);
        $clear = array_values(array_filter($told['sizes'] ?? [], static fn (array $p): bool => $p['size'] > $most));
        usort($clear, static fn (array $a, array $b): int => $b['size'] <=> $a['size']);

        return new ClearPairsView(
            $most,
            array_map(static fn (array $p): ClearPairView => new ClearPairView($p['one'], $p['other'], $p['size']), $clear),
            PairsByChance::DRAWS,
            null === $told,
            null === $told ? $this->forecasts->again($trial, PairsByChance::DRAWS) : null,
            null === $told ? $this->jobs->underWay(ClearPairsRunner::KIND, $trial->id(), self::asks($class))?->id() : null,
        );
    }

    private static function key(Trial $trial, ?string $class): string
    {
        return 'clear-pairs.'.Stamp::of([self::FORM, Bases::mark($trial), $class]);
    }
}
