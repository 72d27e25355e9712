<?php

declare(strict_types=1);

namespace App\Preparation;

use App\Account\User;
use App\Job\Job;
use App\Job\Jobs;
use App\Job\JobView;
use App\Job\Piece;
use App\Question\Questions;
use App\Study\Study;
use App\Table\TableColumn;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Stamp;
use Psr\Cache\CacheItemPoolInterface;

/** Tolls counted in all rows of a large table: asked for once the sample has answered, kept while nothing they depend on changes. */
final readonly class CountedTolls
{
    public const KIND = 'toll';
    /** Raised when what is kept changes its form. */
    private const FORM = 2;
    private const SECONDS = 86400;

    public function __construct(
        private EntityManagerInterface $entities,
        private Jobs $jobs,
        private CacheItemPoolInterface $pool,
        private Questions $questions,
    ) {
    }

    /** @param list<array<string, mixed>> $steps */
    public function kept(Study $study, array $steps): ?VariantView
    {
        $view = $this->pool->getItem($this->key($study, $steps))->get();

        return $view instanceof VariantView ? $view : null;
    }

    /** @param list<array<string, mixed>> $steps */
    public function keep(Study $study, array $steps, VariantView $view): void
    {
        $this->pool->save($this->pool->getItem($this->key($study, $steps))->set($view)->expiresAfter(self::SECONDS));
    }

    /**
     * Starts counting; an earlier count of the same variant that is still under way is no longer wanted.
     *
     * @param list<array<string, mixed>> $steps
     */
    public function ask(Variant $variant, User $user, array $steps): JobView
    {
        foreach ($this->entities->getRepository(Job::class)->findBy([
            'kind' => self::KIND,
            'subject' => $variant->id(),
            'state' => [Job::WAITING, Job::RUNNING],
        ]) as $job) {
            if ($steps === $this->entities->getRepository(Piece::class)->findOneBy(['job' => $job])?->payload()['steps']) {
                return $this->jobs->view($job);
            }
            $this->jobs->cancel($job);
        }
        $job = $this->jobs->start(
            $variant->study(),
            $user,
            self::KIND,
            $variant->id(),
            \sprintf('Counting the exact tolls of variant %s', $variant->letter()),
            Jobs::QUICK,
            ['count' => ['steps' => $steps]],
        );
        $this->entities->flush();

        return $this->jobs->view($job);
    }

    /** @param list<array<string, mixed>> $steps */
    private function key(Study $study, array $steps): string
    {
        $table = $this->questions->of($study)->table();
        $bare = array_map(static fn (array $s) => array_diff_key($s, ['note' => 1]), $steps);

        return 'tolls.'.Stamp::of([
            self::FORM,
            $bare,
            $table?->id(),
            $table?->fingerprint(),
            array_map(
                static fn (TableColumn $c) => [$c->version(), $c->name(), $c->kind()->value, $c->mayServe()],
                $table?->columns() ?? [],
            ),
            null === $table ? null : $this->questions->seal($study)->stamp($table),
        ]);
    }
}
