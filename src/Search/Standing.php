<?php

declare(strict_types=1);

namespace App\Search;

use App\Job\FigureSoFar;
use App\Job\Job;
use App\Logbook\Logbook;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Figure\Figures;

/** Where a search of either kind stands while it runs, and that it was stopped. */
final readonly class Standing
{
    public function __construct(private EntityManagerInterface $entities, private Logbook $logbook)
    {
    }

    /** The best figure so far; of a guided search, of its rungs and not of the judging part. */
    public function best(Job $job): ?FigureSoFar
    {
        $search = $this->entities->find(Search::class, $job->subject());
        if (null === $search) {
            return null;
        }
        $figure = Figures::named($search->question()->task(), $search->figure());
        $dql = \sprintf('SELECT %s(t.value) AS best, COUNT(t.value) AS tried FROM App\Search\SearchTry t', $figure->more ? 'MAX' : 'MIN');
        $where = ' WHERE t.search = :search AND t.place < :judged';
        $judged = $search->isGuided() ? \count(Course::RUNGS) * Course::STRIDE : \PHP_INT_MAX;
        /** @var array{best: float|int|string|null, tried: int|string} $told */
        $told = $this->entities->createQuery($dql.$where)->setParameter('search', $search)->setParameter('judged', $judged)->getSingleResult();

        return null === $told['best'] ? null : new FigureSoFar($figure->name, (float) $told['best'], (int) $told['tried']);
    }

    public function stopped(Job $job, ?string $failure): void
    {
        $search = $this->entities->find(Search::class, $job->subject());
        if (null === $search || Search::RUNNING !== $search->state()) {
            return;
        }
        $search->stop($failure);
        $name = ($search->isGuided() ? 'Guided search ' : 'Search ').$search->number();
        $says = null === $failure ? $name.' was stopped; what it weighed is kept.' : $name.' could not go on: '.$failure;
        $this->logbook->write($search->study(), $job->user(), 'trials', $says);
        $this->entities->flush();
    }
}
