<?php

declare(strict_types=1);

namespace App\Replay;

use App\Study\Study;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** The file that a study is done again from, and what of it was begun so far. */
#[ORM\Entity, ORM\Table(name: 'study_plan')]
class StudyPlan
{
    /**
     * @var array<string, array<array-key, int>> by sort (tables, made, asked, trials, searches, scorings, decisions): its place or number
     *                                           in the file => id here
     */
    #[ORM\Column(type: Types::JSON)]
    private array $done = [];

    /** @param string $file as Replay::read() checks it */
    public function __construct(
        #[ORM\Id, ORM\OneToOne(fetch: 'EAGER'), ORM\JoinColumn(name: 'study_id', nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\Column(type: Types::TEXT)]
        private string $file,
    ) {
    }

    public function study(): Study
    {
        return $this->study;
    }

    public function file(): string
    {
        return $this->file;
    }

    /** Another file takes the place of this one: nothing of it was begun. */
    public function beginWith(string $file): void
    {
        [$this->file, $this->done] = [$file, []];
    }

    /** @return array<array-key, int> what was begun of a sort: place or number in the file => id here */
    public function begun(string $sort): array
    {
        return $this->done[$sort] ?? [];
    }

    public function has(string $sort, int|string $key): bool
    {
        return isset($this->done[$sort][$key]);
    }

    public function note(string $sort, int|string $key, int $id): void
    {
        $this->done[$sort][$key] = $id;
    }
}
