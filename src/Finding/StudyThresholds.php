<?php

declare(strict_types=1);

namespace App\Finding;

use App\Study\Study;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Findings\Thresholds;

/** From where on something is worth a word in one study; what is not said is as usual. */
#[ORM\Entity]
#[ORM\Table(name: 'finding_thresholds')]
class StudyThresholds
{
    /** @param array<string, float> $changed */
    public function __construct(
        #[ORM\Id, ORM\OneToOne(fetch: 'EAGER'), ORM\JoinColumn(name: 'study_id', nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\Column(type: Types::JSON)]
        private array $changed,
    ) {
    }

    public function study(): Study
    {
        return $this->study;
    }

    /** @return array<string, float> */
    public function changed(): array
    {
        return $this->changed;
    }

    /** @param array<string, float> $changed */
    public function change(array $changed): void
    {
        $this->changed = $changed;
    }

    public function thresholds(): Thresholds
    {
        return Thresholds::standard($this->changed);
    }
}
