<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Judgment\Judgments;
use App\Judgment\Section\LostView;
use App\Trial\FigureView;
use App\Trial\Forecasts;
use App\Trial\Trial;
use App\Trial\TrialFolds;
use Dokimos\Core\Explain\GoesTogether;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Progress;
use Dokimos\Core\Stamp;
use Dokimos\Core\Stretch;
use Dokimos\Core\Validate\FoldFit;
use Dokimos\Core\Validate\TrialFigures;
use Psr\Cache\CacheItemPoolInterface;

/** Columns shuffled once more: by another figure, several times, and those that go together as a group. */
final readonly class Shuffled
{
    private const KEPT = 86400 * 90;
    private const FORM = 1;
    private const MOST = 20;

    public function __construct(
        private Judgments $judgments,
        private Bases $bases,
        private TrialFolds $folds,
        private CacheItemPoolInterface $pool,
        private Jobs $jobs,
        private Forecasts $forecasts,
    ) {
    }

    /** @return array<string, array<string, mixed>> the piece that shuffles */
    private static function asks(Figure $figure, int $repeats): array
    {
        return ['all' => ['figure' => $figure->key, 'repeats' => $repeats]];
    }

    /** Has a worker fit the folds once more and shuffle. */
    public function start(Trial $trial, User $user, string $by, int $repeats): Job
    {
        $figure = self::figure($trial, $by, $repeats);
        $this->judgments->onItsRows($trial);

        return $this->jobs->once(
            $trial->study(),
            $user,
            ShuffledRunner::KIND,
            $trial->id(),
            \sprintf('Shuffling columns of trial %d', $trial->number()),
            Jobs::LONG,
            self::asks($figure, $repeats),
        );
    }

    public function look(Trial $trial, string $by, int $repeats, Progress $progress): void
    {
        $figure = self::figure($trial, $by, $repeats);
        $item = $this->pool->getItem(self::key($trial, $figure, $repeats));
        if ($item->isHit()) {
            return;
        }
        $seen = $this->bases->reasoning($trial)->basis->seen;
        $groups = GoesTogether::groups($seen, $seen->names());
        $as = [];
        foreach ($groups as $k => $group) {
            // No column is named by so many zeros.
            $as["\0".$k] = $group;
        }
        [$data, $folds] = $this->folds->of($trial);
        $lost = [];
        foreach ($folds as $k => $fold) {
            $own = new Stretch($progress, $k / \count($folds), ($k + 1) / \count($folds));
            $own->report(0.0, 'columns are shuffled');
            $prepared = $data->prepared($data->some($fold['training'], $trial->part()), $fold['validation']);
            $fit = FoldFit::of($prepared, $trial->refitted(), new Stretch($own, 0.0, 0.5));
            $lost[] = $fit->lostBy($figure, $fit->alone() + $as, max(1, $repeats), new Stretch($own, 0.5, 1.0));
        }
        $this->pool->save($item->set([
            'lines' => TrialFigures::importance($lost, \count($folds)),
            'groups' => $groups,
        ])->expiresAfter(self::KEPT));
    }

    public function view(Trial $trial, string $by, int $repeats): ShuffledView
    {
        $figure = self::figure($trial, $by, $repeats);
        $item = $this->pool->getItem(self::key($trial, $figure, $repeats));
        /**
         * @var array{
         *     lines: list<array{column: string, value: ?float, low: ?float, high: ?float}>,
         *     groups: list<list<string>>
         * }|null $kept
         */
        $kept = $item->isHit() ? $item->get() : null;
        $columns = $groups = [];
        foreach ($kept['lines'] ?? [] as $line) {
            $lost = new LostView($line['column'], $line['value'], $line['low'], $line['high']);
            if (str_starts_with($line['column'], "\0")) {
                $groups[] = new LostTogetherView(
                    $kept['groups'][(int) substr($line['column'], 1)] ?? [],
                    $lost->value,
                    $lost->low,
                    $lost->high,
                );
            } else {
                $columns[] = $lost;
            }
        }

        return new ShuffledView(
            FigureView::of($figure),
            $repeats,
            array_map(FigureView::of(...), Figures::of($trial->line()->task)),
            $columns,
            $groups,
            null === $kept,
            null === $kept ? $this->forecasts->again($trial, $trial->question()->plan()->folds ?? 1) : null,
            null === $kept ? $this->jobs->underWay(ShuffledRunner::KIND, $trial->id(), self::asks($figure, $repeats))?->id() : null,
        );
    }

    private static function figure(Trial $trial, string $by, int $repeats): Figure
    {
        if ($repeats < 1 || $repeats > self::MOST) {
            throw Problem::invalid(\sprintf('Columns are shuffled 1 to %d times.', self::MOST), 'repeats');
        }
        if ('' === $by) {
            return $trial->question()->figure();
        }
        try {
            return Figures::named($trial->line()->task, $by);
        } catch (\InvalidArgumentException $e) {
            throw Problem::invalid($e->getMessage(), 'by');
        }
    }

    private static function key(Trial $trial, Figure $figure, int $repeats): string
    {
        return 'shuffled.'.Stamp::of([self::FORM, Bases::mark($trial), $figure->key, $repeats]);
    }
}
