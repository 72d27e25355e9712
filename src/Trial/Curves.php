<?php

declare(strict_types=1);

namespace App\Trial;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use Dokimos\Core\Stamp;
use Psr\Cache\CacheItemPoolInterface;

/** Keeps learning curves, and begins them. */
final readonly class Curves
{
    private const KEPT = 86400 * 90;
    private const FORM = 1;

    public function __construct(private Jobs $jobs, private CacheItemPoolInterface $pool)
    {
    }

    public function start(Trial $trial, User $user): Job
    {
        if (!$trial->isDone() || !Ancestry::onItsRows($trial)) {
            throw new Problem(409, 'A learning curve is drawn of a trial that is done, on the rows it was judged on.');
        }

        return $this->jobs->once(
            $trial->study(),
            $user,
            CurveRunner::KIND,
            $trial->id(),
            \sprintf('Learning curve of trial %d', $trial->number()),
            Jobs::LONG,
            ['curve' => []],
        );
    }

    private function running(Trial $trial): ?Job
    {
        return $this->jobs->underWay(CurveRunner::KIND, $trial->id());
    }

    /** @return array{points: list<array{share: float, rows: int, value: ?float, low: ?float, high: ?float}>, gain: array{value: float, low: float, high: float}|null}|null */
    public function kept(Trial $trial): ?array
    {
        $item = $this->pool->getItem(self::key($trial));
        /** @var array{points: list<array{share: float, rows: int, value: ?float, low: ?float, high: ?float}>, gain: array{value: float, low: float, high: float}|null}|null $kept */
        $kept = $item->isHit() ? $item->get() : null;

        return $kept;
    }

    /**
     * @param list<array<string, mixed>>                        $points
     * @param array{value: float, low: float, high: float}|null $gain   from the last but one to the last
     */
    public function keep(Trial $trial, array $points, ?array $gain): void
    {
        $this->pool->save($this->pool->getItem(self::key($trial))->set(['points' => $points, 'gain' => $gain])->expiresAfter(self::KEPT));
    }

    private static function key(Trial $trial): string
    {
        return 'curve.'.Stamp::of([
            self::FORM,
            $trial->id(),
            $trial->ancestry(),
            $trial->question()->hash(),
            $trial->question()->figure()->key,
        ]);
    }

    public function view(Trial $trial): CurveView
    {
        $kept = $this->kept($trial);
        $points = array_map(
            static fn (array $p): CurvePoint => new CurvePoint($p['share'], $p['rows'], $p['value'], $p['low'], $p['high']),
            $kept['points'] ?? [],
        );
        $gain = $kept['gain'] ?? null;
        $figure = $trial->question()->figure();
        $says = null;
        if (null !== $gain) {
            $says = match (true) {
                $gain['low'] > 0.0 => \sprintf(
                    'More records would still help: from 70 to 100%% of the training rows %s gets better by %s (%s to %s).',
                    $figure->name,
                    $figure->said($gain['value']),
                    $figure->said($gain['low']),
                    $figure->said($gain['high']),
                ),
                $gain['high'] < 0.0 => \sprintf(
                    'More records did not help: from 70 to 100%% of the training rows %s gets worse by %s (%s to %s).',
                    $figure->name,
                    $figure->said(-$gain['value']),
                    $figure->said(-$gain['high']),
                    $figure->said(-$gain['low']),
                ),
                default => null,
            };
        }

        return new CurveView(
            FigureView::of($figure),
            $points,
            $gain['value'] ?? null,
            $gain['low'] ?? null,
            $gain['high'] ?? null,
            $says,
            $this->running($trial)?->id(),
        );
    }
}
