<?php

declare(strict_types=1);

namespace App\Trial;

use App\Preparation\Variant;
use App\Question\Ground;
use App\Question\Questions;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Validate\TrialData;

/** Which columns a preparation offers to trials: those that may serve, and what its steps made of them. */
final readonly class Offers
{
    /** Rows that are prepared to see what comes out: names hardly hang on more of them. */
    private const ROWS = 4000;

    public function __construct(private Ground $ground, private Questions $questions)
    {
    }

    /** @return list<OfferedView> */
    public function of(Variant $variant): array
    {
        $study = $variant->study();
        $inputs = $this->ground->inputs($study);
        $steps = array_values(array_filter($variant->steps(), static fn (array $s): bool => true !== ($s['off'] ?? false)));
        [$table, $outcome] = $this->ground->open($study, $this->ground->needed($study, $steps, $inputs));
        $few = array_keys(\array_slice($outcome, 0, self::ROWS));
        $data = new TrialData(
            $table->take($few),
            $inputs,
            \array_slice($outcome, 0, self::ROWS),
            Preparation::fromArray($steps),
            $this->questions->of($study)->classes(),
        );
        $prepared = $data->prepared($few);
        $views = [];
        foreach ($prepared->task->inputs as $name) {
            $made = $table->has($name) ? null : implode(', ', array_diff($prepared->fitted->asks([$name]), $prepared->fitted->asks([])));
            $views[] = new OfferedView($name, $prepared->task->table->column($name)->kind()->value, $made);
        }

        return $views;
    }
}
