<?php

declare(strict_types=1);

namespace App\Register;

use App\Study\InStudy;
use App\Study\Study;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** Records of a view that were narrowed, under a name: what was asked is kept, and how many answered it then. */
#[ORM\Entity]
class NamedSelection implements InStudy
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    /**
     * @param string $view    where it is looked at, below the study: "table/3/rows" or "decisions/4"
     * @param string $query   as it stands in the address
     * @param int    $records when it was named
     */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\Column(length: 120)]
        private string $name,
        #[ORM\Column(length: 60)]
        private string $view,
        #[ORM\Column(length: 4000)]
        private string $query,
        #[ORM\Column]
        private int $records,
    ) {
        $this->createdAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function study(): Study
    {
        return $this->study;
    }

    public function name(): string
    {
        return $this->name;
    }

    public function view(): string
    {
        return $this->view;
    }

    public function query(): string
    {
        return $this->query;
    }

    public function records(): int
    {
        return $this->records;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }

    /** What was asked and how many answered are those of now; the name stays. */
    public function renew(string $view, string $query, int $records): void
    {
        [$this->view, $this->query, $this->records] = [$view, $query, $records];
    }
}
