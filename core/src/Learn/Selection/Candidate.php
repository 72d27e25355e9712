<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Selection;

use Dokimos\Core\Math\Distribution\ChiSquare;
use Dokimos\Core\Math\Distribution\FisherF;

/** A regression on some of the columns, as far as a choice among them needs it. */
final readonly class Candidate
{
    /** @param ?float $rss for least squares, where the F test and the variance count; null for likelihoods */
    public function __construct(public float $logLikelihood, public int $parameters, public int $rows, public ?float $rss = null)
    {
    }

    /** -2 logL + 2 k. For least squares the constants that all models share are left out: n ln(rss/n) + 2 k. */
    public function aic(float $penalty = 2.0): float
    {
        return (null === $this->rss ? -2 * $this->logLikelihood : $this->rows * log(max(1e-300, $this->rss / $this->rows))) + $penalty * $this->parameters;
    }

    /**
     * What this model says beyond a smaller one: the likelihood-ratio test, or the partial F of least squares.
     *
     * @return array{statistic: float, df: int, p: float}
     */
    public function beyond(self $smaller): array
    {
        $df = $this->parameters - $smaller->parameters;
        if ($df < 1) {
            return ['statistic' => 0.0, 'df' => 0, 'p' => 1.0];
        }
        if (null !== $this->rss && null !== $smaller->rss) {
            $freedom = $this->rows - $this->parameters;
            if ($freedom < 1 || $this->rss <= 0.0) {
                return ['statistic' => 0.0, 'df' => $df, 'p' => 1.0];
            }
            $f = max(0.0, ($smaller->rss - $this->rss) / $df / ($this->rss / $freedom));

            return ['statistic' => $f, 'df' => $df, 'p' => (new FisherF($df, $freedom))->upper($f)];
        }
        $chi2 = max(0.0, 2 * ($this->logLikelihood - $smaller->logLikelihood));

        return ['statistic' => $chi2, 'df' => $df, 'p' => (new ChiSquare($df))->upper($chi2)];
    }
}
