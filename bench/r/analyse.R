# The analysis of one test in base R, written from docs/method.md alone: files to gain with its band. It is a second
# opinion on the numbers and the yardstick for time; the application never runs it.
#
#   Rscript --vanilla analyse.R manifest.csv fromRpm toRpm stepRpm
#
# manifest: file, arm (0 baseline, 1 part), run, temperatureC, pressureHpa, humidityPct. Spark ignition, SAE J1349,
# one mounting, no drift covariate. Prints name,value with 17 digits; times are in seconds.
began <- proc.time()[[3]]
args <- commandArgs(trailingOnly = TRUE)
pulls <- read.csv(args[1], stringsAsFactors = FALSE)
from <- as.numeric(args[2]); to <- as.numeric(args[3]); step <- as.numeric(args[4])
grid <- seq(from, to, by = step)
G <- length(grid)
alpha <- 0.025

# Saturation over water from 0 C up: IAPWS R7-97(2012) Eq. 30.
saturationPa <- function(t) {
  n <- c(1167.0521452767, -724213.16703206, -17.073846940092, 12020.82470247, -3232555.0322333, 14.91510861353,
         -4823.2657361591, 405113.40542057, -0.23855557567849, 650.17534844798)
  T <- t + 273.15
  th <- T + n[9] / (T - n[10])
  A <- th^2 + n[1] * th + n[2]; B <- n[3] * th^2 + n[4] * th + n[5]; C <- n[6] * th^2 + n[7] * th + n[8]
  1e6 * (2 * C / (-B + sqrt(B^2 - 4 * A * C)))^4
}
factorOf <- function(p) {
  dry <- p$pressureHpa - p$humidityPct / 100 * saturationPa(p$temperatureC) / 100
  1.176 * (990 / dry) * sqrt((p$temperatureC + 273.15) / 298.15) - 0.176
}
# Torque at the grid: local linear regression, tricube weights, from the full-throttle samples up to the rev peak.
curveOf <- function(file) {
  d <- read.csv(file, comment.char = "#", check.names = FALSE)
  rpm <- d[[2]]; torque <- d[[4]]; throttle <- d[[5]]
  open <- which(throttle >= 0.95 * max(throttle))
  use <- open[open <= open[which.max(rpm[open])]]
  o <- use[order(rpm[use])]
  x <- rpm[o]; y <- torque[o]
  w <- max(step, 2.5 * median(diff(x)))
  vapply(grid, function(r) {
    k <- which(abs(x - r) <= w)
    if (length(k) < 4) return(NA_real_)
    delta <- x[k] - r
    weight <- (1 - abs(delta / w)^3)^3
    s0 <- sum(weight); s1 <- sum(weight * delta); s2 <- sum(weight * delta^2)
    (s2 * sum(weight * y[k]) - s1 * sum(weight * delta * y[k])) / (s0 * s2 - s1^2)
  }, 0)
}
torque <- t(vapply(seq_len(nrow(pulls)), function(i) curveOf(pulls$file[i]) * factorOf(pulls[i, ]), numeric(G)))
power <- sweep(torque, 2, grid * pi / 30, "*")
stopifnot(!anyNA(power))
read <- proc.time()[[3]]

smoothRow <- function(v) {
  h <- floor(200 / (2 * step) + 0.5)
  vapply(seq_len(G), function(j) { k <- min(h, j - 1, G - j); mean(v[(j - k):(j + k)]) }, 0)
}
smoothRows <- function(m) t(apply(m, 1, smoothRow))
lpP <- 100 * log(power); lpT <- 100 * log(torque)
xP <- smoothRows(lpP); xT <- smoothRows(lpT)

arm <- pulls$arm
c <- ifelse(arm == 1, 1 / sum(arm == 1), -1 / sum(arm == 0))
Z <- model.matrix(~ 0 + factor(pulls$run))
M <- diag(length(arm)) - Z %*% solve(crossprod(Z)) %*% t(Z)
N <- length(arm); nu <- N - ncol(Z)
B <- c > 0; A <- !B
dfA <- sum(diag(M)[A]); dfB <- sum(diag(M)[B])
c2A <- sum(c[A]^2); c2B <- sum(c[B]^2); c2 <- c2A + c2B
guard <- 1 + max(0, max(c2A, c2B) / c2 - 2 / 3)

ratioOf <- function(E) {
  t1 <- mean(colSums(E^2)) / nu
  K <- min(8, G)
  phi <- outer(0:(K - 1), 0:(G - 1), function(k, j) ifelse(k == 0, 1, sqrt(2) * cos(pi * k * (j + 0.5) / G)))
  C <- E %*% t(phi) / G
  a <- colSums(C[A, , drop = FALSE]^2); b <- colSums(C[B, , drop = FALSE]^2)
  share <- (a + b) / (nu * t1)
  w <- share / (share + 0.02)
  right <- dfB / nu * sum(w)
  L <- function(q) sum((w * (b / q) / (a + b / q))[a + b > 0])
  q <- if (L(0.1) <= right) 0.1 else if (L(10) >= right) 10 else
    exp(uniroot(function(l) L(exp(l)) - right, c(-log(10), log(10)), tol = 1e-13)$root)
  list(q = q, keff = sum(w)^2 / sum(w^2), t1 = t1)
}
bandOf <- function(x) {
  E <- M %*% x; E[abs(E) < 1e-12] <- 0
  r <- ratioOf(E); q <- r$q
  ssA <- colSums(E[A, , drop = FALSE]^2); ssB <- colSums(E[B, , drop = FALSE]^2)
  sq <- (ssA + ssB / q) / nu; sbar <- mean(sq)
  K <- outer(grid, grid, function(u, v) exp(-0.5 * ((u - v) / 500)^2)); K <- K / rowSums(K)
  sm <- as.vector(K %*% sq)
  U2 <- max(sbar * (c2A + q * c2B), r$t1 * c2, 1.1 * (mean(ssA) / dfA * c2A + mean(ssB) / dfB * c2B), 0.0025 * c2)
  pw <- U2 * guard^2 * pmax(0.8 * sq, (sm + sbar) / 2) / sbar
  Zs <- sweep(E, 2, sqrt(colSums(E^2)), "/")
  inc <- sqrt(colSums((Zs[, -1] - Zs[, -G])^2))
  tau <- sum(inc)
  h <- min(2, 1 + tau / 7)
  df <- h * nu
  ec <- function(l) { u <- exp(l); pt(u, df, lower.tail = FALSE) + tau / (2 * pi) * (1 + u^2 / df)^(-df / 2) - alpha }
  uec <- exp(uniroot(ec, log(c(1e-6, 1e4)), tol = 1e-13)$root)
  u <- max(min(uec, qt(alpha / G, df, lower.tail = FALSE)), qt(alpha, nu, lower.tail = FALSE))
  d <- as.vector(t(c) %*% x)
  list(d = d, lower = d - u * sqrt(pw), upper = d + u * sqrt(pw))
}
scalarOf <- function(y, curves) {
  e <- M %*% y
  ssA <- sum(e[A]^2); ssB <- sum(e[B]^2)
  E <- M %*% curves; E[abs(E) < 1e-12] <- 0
  r <- ratioOf(E); q <- r$q
  p <- q * c2B / (c2A + q * c2B)
  a <- ssA * c2A / dfA; b <- ssB * c2B / dfB
  V <- base::c(c2 * (ssA + ssB) / nu, (1 + 0.1 / r$keff) * (c2A + q * c2B) * (ssA + ssB / q) / nu, a + b)
  f <- base::c(nu, 1 / (1 / nu + (p - dfB / nu)^2 * nu / (dfA * dfB * r$keff)), max(nu / 2, (a + b)^2 / (a^2 / dfA + b^2 / dfB)))
  V <- pmax(V, 0.0025 * c2) * guard^2
  half <- max(qt(alpha, f, lower.tail = FALSE) * sqrt(V))
  d <- sum(c * y)
  base::c(d - half, d, d + half)
}
pct <- function(v) 100 * (exp(v / 100) - 1)
band <- bandOf(xP)
average <- scalarOf(rowMeans(lpP), xP)
peakP <- scalarOf(apply(xP, 1, max), xP)
peakT <- scalarOf(apply(xT, 1, max), xT)
best <- which.max(band$lower)
out <- base::c(
  upToPct = pct(band$lower[best]), upToRpm = grid[best], worstPct = pct(min(band$d)),
  averagePct = pct(average[2]), averageLower = pct(average[1]), averageUpper = pct(average[3]),
  filesSeconds = read - began, contrastSeconds = proc.time()[[3]] - read,
  peakLowerPct = pct(peakP[1]), peakUpperPct = pct(peakP[3]), peakTorqueLowerPct = pct(peakT[1]))
cat(paste0(names(out), ",", formatC(out, digits = 17, format = "g")), sep = "\n")
