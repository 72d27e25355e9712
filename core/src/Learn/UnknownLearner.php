<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model was made by a learner that is not there. */
final class UnknownLearner extends \UnexpectedValueException
{
}
